import { namedSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { deleteSite } from '#server/services/sites'

export default route(async (event) => {
  const { name } = await readChecked(event, namedSchema, 2000)
  return deleteSite(slugOf(event), name, visitorOf(event).name)
})
