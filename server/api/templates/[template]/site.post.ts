import { namedSchema } from '#contracts/api'
import { visitorOf, readChecked, route } from '#server/platform/route'
import { siteFromTemplate } from '#server/services/templates'

export default route(async (event) => {
  const { name } = await readChecked(event, namedSchema, 2000)
  return siteFromTemplate(Number(getRouterParam(event, 'template')), name, visitorOf(event).name)
})
