import { passwordSchema } from '#contracts/factors'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { removeAuthenticator } from '#server/services/factors'

export default route(async (event) => {
  const { password } = await readChecked(event, passwordSchema, 2000)
  return removeAuthenticator(visitorOf(event), password)
})
