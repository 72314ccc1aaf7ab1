import { replaceSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { replaceClaim, rosterOf } from '#server/services/roster'

export default route(async (event) => {
  const { serial } = await readChecked(event, replaceSchema, 2000)
  await replaceClaim(slugOf(event), getRouterParam(event, 'serial') ?? '', serial, visitorOf(event).name)
  return rosterOf(slugOf(event))
})
