import { route, visitorOf } from '#server/platform/route'
import { listTokens } from '#server/services/tokens'

export default route(async (event) => listTokens(visitorOf(event)))
