import { firstPersonSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { fromOf, giveSession } from '#server/platform/visits'
import { joinFirst } from '#server/services/accounts'

export default route(async (event) => {
  const { token, name, password } = await readChecked(event, firstPersonSchema, 2000)
  const { role, sessionId } = await joinFirst(token, name, password, fromOf(event))
  await giveSession(event, sessionId)
  return { name, role }
})
