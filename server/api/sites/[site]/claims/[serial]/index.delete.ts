import { visitorOf, route, slugOf } from '#server/platform/route'
import { releaseClaim, rosterOf } from '#server/services/roster'

export default route(async (event) => {
  await releaseClaim(slugOf(event), getRouterParam(event, 'serial') ?? '', visitorOf(event).name)
  return rosterOf(slugOf(event))
})
