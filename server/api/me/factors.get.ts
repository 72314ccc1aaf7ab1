import { route, visitorOf } from '#server/platform/route'
import { listFactors } from '#server/services/factors'
import { relyingPartyAt } from '#server/services/passkeys'

export default route(async (event) =>
  listFactors(visitorOf(event), relyingPartyAt(getRequestHeader(event, 'host') ?? '') !== null),
)
