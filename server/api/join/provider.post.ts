import { linkSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { keepSignOn } from '#server/platform/visits'
import { sendToJoin } from '#server/services/single-sign-on'

export default route(async (event) => {
  const { token } = await readChecked(event, linkSchema, 1000)
  const { to, signOn } = await sendToJoin(token)
  await keepSignOn(event, signOn)
  return to
})
