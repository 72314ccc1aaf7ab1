import { newPasskeySchema } from '#contracts/factors'
import { relyingPartyOf } from '#server/platform/visits'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { addPasskey } from '#server/services/passkeys'

export default route(async (event) => {
  const passkey = await readChecked(event, newPasskeySchema, 60_000)
  return addPasskey(visitorOf(event), passkey, relyingPartyOf(event))
})
