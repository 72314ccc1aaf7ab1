import { namedSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { keepTemplate } from '#server/services/templates'

export default route(async (event) => {
  const { name } = await readChecked(event, namedSchema, 2000)
  return keepTemplate(slugOf(event), name, visitorOf(event).name)
})
