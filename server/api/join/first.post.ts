import { firstPersonSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { fromOf, giveSession } from '#server/platform/visits'
import { joinFirst } from '#server/services/accounts'
import { meBy } from '#server/services/sessions'

export default route(async (event) => {
  const { token, password, ...first } = await readChecked(event, firstPersonSchema, 2000)
  const sessionId = await joinFirst(token, first, password, fromOf(event))
  await giveSession(event, sessionId)
  return meBy(sessionId)
})
