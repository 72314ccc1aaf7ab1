import { keptRoute, slugOf } from '#server/platform/route'
import { proofOf } from '#server/services/proof'

export default keptRoute(async (event) => proofOf(slugOf(event)))
