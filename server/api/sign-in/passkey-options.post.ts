import { emptySchema } from '#contracts/api'
import { readChecked, route } from '#server/platform/route'
import { addressOf, relyingPartyOf } from '#server/platform/visits'
import { passkeySignInOptions } from '#server/services/passkeys'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  return passkeySignInOptions(relyingPartyOf(event), addressOf(event))
})
