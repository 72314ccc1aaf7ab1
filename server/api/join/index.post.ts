import { joinSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { fromOf, giveSession } from '#server/platform/visits'
import { join } from '#server/services/accounts'
import { meBy } from '#server/services/sessions'

/** Who has a second factor signs in with it next: of them the answer says no more than the name. */
export default route(async (event) => {
  const { token, password } = await readChecked(event, joinSchema, 2000)
  const { name, sessionId } = await join(token, password, fromOf(event))
  if (sessionId === null) return { name }
  await giveSession(event, sessionId)
  return meBy(sessionId)
})
