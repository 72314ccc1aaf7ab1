import { stepRecordSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { recordStep } from '#server/services/steps'

export default route(async (event) =>
  recordStep(slugOf(event), await readChecked(event, stepRecordSchema, 40_000), visitorOf(event).name),
)
