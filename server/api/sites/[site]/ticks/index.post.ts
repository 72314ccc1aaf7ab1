import { tickSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { setTick } from '#server/services/ticks'

export default route(async (event) => {
  const { item, done } = await readChecked(event, tickSchema, 2000)
  return setTick(slugOf(event), item, done, visitorOf(event).name)
})
