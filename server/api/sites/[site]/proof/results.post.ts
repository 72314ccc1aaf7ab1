import { recordResultSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { recordResult } from '#server/services/proof'

export default route(async (event) =>
  recordResult(slugOf(event), await readChecked(event, recordResultSchema, 10_000), visitorOf(event).name),
)
