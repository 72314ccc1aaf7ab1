import { keepTemplateSchema } from '#contracts/api'
import { meOf, readChecked, route, slugOf } from '#server/platform/route'
import { keepTemplate } from '#server/services/templates'

export default route(async (event) => {
  const { name } = await readChecked(event, keepTemplateSchema, 2000)
  return keepTemplate(slugOf(event), name, meOf(event).name)
})
