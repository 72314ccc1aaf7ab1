import { route, slugOf } from '#server/platform/route'
import { currentPlan } from '#server/services/plans'

export default route(async (event) => currentPlan(slugOf(event)))
