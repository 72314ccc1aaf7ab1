import { passwordSchema } from '#contracts/factors'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { passkeyOptions, relyingPartyAt } from '#server/services/passkeys'

export default route(async (event) => {
  const { password } = await readChecked(event, passwordSchema, 2000)
  const party = relyingPartyAt(getRequestHeader(event, 'host') ?? '')
  return passkeyOptions(visitorOf(event), password, party)
})
