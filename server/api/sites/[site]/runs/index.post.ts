import { startRunSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { startRun } from '#server/services/runs'

export default route(async (event) =>
  startRun(slugOf(event), await readChecked(event, startRunSchema), visitorOf(event).name),
)
