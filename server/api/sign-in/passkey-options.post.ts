import { emptySchema } from '#contracts/api'
import { readChecked, route } from '#server/platform/route'
import { addressOf } from '#server/platform/visits'
import { passkeySignInOptions, relyingPartyAt } from '#server/services/passkeys'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  return passkeySignInOptions(relyingPartyAt(getRequestHeader(event, 'host') ?? ''), addressOf(event))
})
