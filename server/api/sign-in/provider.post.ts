import { emptySchema } from '#contracts/api'
import { readChecked, route } from '#server/platform/route'
import { keepSignOn } from '#server/platform/visits'
import { sendToSignIn } from '#server/services/single-sign-on'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  const { to, signOn } = await sendToSignIn()
  await keepSignOn(event, signOn)
  return to
})
