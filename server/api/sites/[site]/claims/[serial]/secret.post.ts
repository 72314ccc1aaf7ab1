import { emptySchema } from '#contracts/api'
import { readChecked, route, slugOf } from '#server/platform/route'
import { makeSecret } from '#server/services/device-keys'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  return makeSecret(slugOf(event), getRouterParam(event, 'serial') ?? '')
})
