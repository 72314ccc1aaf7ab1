import { passwordSchema } from '#contracts/factors'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { keepSignOn } from '#server/platform/visits'
import { sendToConnect } from '#server/services/single-sign-on'

export default route(async (event) => {
  const { password } = await readChecked(event, passwordSchema, 2000)
  const { to, signOn } = await sendToConnect(visitorOf(event), password)
  await keepSignOn(event, signOn)
  return to
})
