import { keptRoute, slugOf } from '#server/platform/route'
import { currentPlan } from '#server/services/plans'

export default keptRoute(async (event) => currentPlan(slugOf(event)))
