import { route, slugOf } from '#server/platform/route'
import { revokeKey } from '#server/services/device-keys'
import { rosterOf } from '#server/services/roster'

export default route(async (event) => {
  await revokeKey(slugOf(event), getRouterParam(event, 'serial') ?? '')
  return rosterOf(slugOf(event))
})
