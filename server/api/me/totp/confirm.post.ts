import { codeSchema } from '#contracts/factors'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { confirmAuthenticator } from '#server/services/factors'

export default route(async (event) => {
  const { code } = await readChecked(event, codeSchema, 2000)
  return confirmAuthenticator(visitorOf(event), code)
})
