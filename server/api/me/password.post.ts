import { passwordChangeSchema } from '#contracts/accounts'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { changePassword } from '#server/services/accounts'

export default route(async (event) => {
  const { current, wanted } = await readChecked(event, passwordChangeSchema, 2000)
  await changePassword(visitorOf(event), current, wanted)
  return {}
})
