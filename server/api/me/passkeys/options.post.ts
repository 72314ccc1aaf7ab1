import { passwordSchema } from '#contracts/factors'
import { relyingPartyOf } from '#server/platform/visits'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { passkeyOptions } from '#server/services/passkeys'

export default route(async (event) => {
  const { password } = await readChecked(event, passwordSchema, 2000)
  const party = relyingPartyOf(event)
  return passkeyOptions(visitorOf(event), password, party)
})
