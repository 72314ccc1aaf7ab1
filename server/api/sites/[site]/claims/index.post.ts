import { claimSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { claimDevice, rosterOf } from '#server/services/roster'

export default route(async (event) => {
  const { serial, deviceId } = await readChecked(event, claimSchema, 2000)
  await claimDevice(slugOf(event), serial, deviceId, visitorOf(event).name)
  return rosterOf(slugOf(event))
})
