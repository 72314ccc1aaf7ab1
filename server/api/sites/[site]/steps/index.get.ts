import { route, slugOf } from '#server/platform/route'
import { listSteps } from '#server/services/steps'

export default route(async (event) => listSteps(slugOf(event)))
