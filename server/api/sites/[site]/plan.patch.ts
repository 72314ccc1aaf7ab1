import { savePlanSchema } from '#contracts/api'
import { MOST_PLAN_BYTES } from '#contracts/plan'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { savePlan } from '#server/services/plans'

export default route(async (event) => {
  const { baseRevision, patch, words } = await readChecked(event, savePlanSchema, MOST_PLAN_BYTES)
  return savePlan({ slug: slugOf(event), baseRevision, author: visitorOf(event).name }, patch, words)
})
