import { route, visitorOf } from '#server/platform/route'
import { ownIdentity } from '#server/services/single-sign-on'

export default route(async (event) => ownIdentity(visitorOf(event)))
