import { passwordSchema } from '#contracts/factors'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { disconnect } from '#server/services/single-sign-on'

export default route(async (event) => {
  const { password } = await readChecked(event, passwordSchema, 2000)
  return disconnect(visitorOf(event), password)
})
