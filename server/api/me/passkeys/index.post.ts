import { newPasskeySchema } from '#contracts/factors'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { addPasskey, relyingPartyAt } from '#server/services/passkeys'

export default route(async (event) => {
  const passkey = await readChecked(event, newPasskeySchema, 60_000)
  return addPasskey(visitorOf(event), passkey, relyingPartyAt(getRequestHeader(event, 'host') ?? ''))
})
