import { signInSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { deviceProofOf, fromOf, giveSession } from '#server/platform/visits'
import { meBy } from '#server/services/sessions'
import { signIn } from '#server/services/sign-in'

export default route(async (event) => {
  const { code = '', ...who } = await readChecked(event, signInSchema, 2000)
  const { sessionId, deviceProof } = await signIn({ ...who, code }, fromOf(event), deviceProofOf(event))
  await giveSession(event, sessionId, deviceProof)
  return meBy(sessionId)
})
