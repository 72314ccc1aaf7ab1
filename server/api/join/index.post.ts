import { joinSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { fromOf, giveSession } from '#server/platform/visits'
import { join } from '#server/services/accounts'
import { meBy } from '#server/services/sessions'

export default route(async (event) => {
  const { token, password } = await readChecked(event, joinSchema, 2000)
  const sessionId = await join(token, password, fromOf(event))
  await giveSession(event, sessionId)
  return meBy(sessionId)
})
