import { numberOf, route, visitorOf } from '#server/platform/route'
import { endToken } from '#server/services/tokens'

export default route(async (event) => endToken(visitorOf(event), numberOf(event, 'token')))
