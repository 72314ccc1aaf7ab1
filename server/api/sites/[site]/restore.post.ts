import { restoreSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { restorePlan } from '#server/services/plans'

export default route(async (event) => {
  const { baseRevision, revision } = await readChecked(event, restoreSchema, 2000)
  return restorePlan({ slug: slugOf(event), baseRevision, author: visitorOf(event).name }, revision)
})
