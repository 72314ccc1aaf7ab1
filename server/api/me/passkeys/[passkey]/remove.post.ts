import { passwordSchema } from '#contracts/factors'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { removePasskey } from '#server/services/passkeys'

export default route(async (event) => {
  const { password } = await readChecked(event, passwordSchema, 2000)
  return removePasskey(visitorOf(event), getRouterParam(event, 'passkey') ?? '', password)
})
