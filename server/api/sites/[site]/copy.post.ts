import { namedSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { copySite } from '#server/services/plans'

export default route(async (event) => {
  const { name } = await readChecked(event, namedSchema, 2000)
  return copySite(slugOf(event), name, visitorOf(event).name)
})
