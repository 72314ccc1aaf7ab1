import { levelSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { listLevels, reportLevel } from '#server/services/levels'

export default route(async (event) => {
  await reportLevel(slugOf(event), await readChecked(event, levelSchema, 2000), visitorOf(event).name)
  return listLevels(slugOf(event))
})
