import { route, slugOf } from '#server/platform/route'
import { proofOf } from '#server/services/proof'

export default route(async (event) => proofOf(slugOf(event)))
