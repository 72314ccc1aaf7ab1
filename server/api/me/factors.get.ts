import { route, visitorOf } from '#server/platform/route'
import { relyingPartyOf } from '#server/platform/visits'
import { listFactors } from '#server/services/factors'

export default route(async (event) => listFactors(visitorOf(event), relyingPartyOf(event) !== null))
