import { claimListSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { claimList, rosterOf } from '#server/services/roster'

export default route(async (event) => {
  const { csv } = await readChecked(event, claimListSchema, 300_000)
  await claimList(slugOf(event), csv, visitorOf(event).name)
  return rosterOf(slugOf(event))
})
