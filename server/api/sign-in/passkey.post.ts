import { passkeySignInSchema } from '#contracts/factors'
import { readChecked, route } from '#server/platform/route'
import { fromOf, giveSession, relyingPartyOf } from '#server/platform/visits'
import { signInByPasskey } from '#server/services/passkeys'
import { meBy } from '#server/services/sessions'

export default route(async (event) => {
  const { response } = await readChecked(event, passkeySignInSchema, 60_000)
  const party = relyingPartyOf(event)
  const sessionId = await signInByPasskey(response, party, fromOf(event))
  await giveSession(event, sessionId)
  return meBy(sessionId)
})
