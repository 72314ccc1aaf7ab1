import { providerAnswerSchema } from '#contracts/single-sign-on'
import { readChecked, route } from '#server/platform/route'
import { fromOf, giveSession, takeSignOn } from '#server/platform/visits'
import { meBy } from '#server/services/sessions'
import { signInByProvider } from '#server/services/single-sign-on'

export default route(async (event) => {
  const { query } = await readChecked(event, providerAnswerSchema, 5000)
  const sessionId = await signInByProvider(query, await takeSignOn(event), fromOf(event))
  await giveSession(event, sessionId)
  return meBy(sessionId)
})
