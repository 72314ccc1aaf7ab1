import { joinSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { fromOf, giveSession } from '#server/platform/visits'
import { join } from '#server/services/accounts'

export default route(async (event) => {
  const { token, password } = await readChecked(event, joinSchema, 2000)
  const { name, role, sessionId } = await join(token, password, fromOf(event))
  await giveSession(event, sessionId)
  return { name, role }
})
