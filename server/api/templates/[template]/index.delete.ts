import { route } from '#server/platform/route'
import { removeTemplate } from '#server/services/templates'

export default route(async (event) => removeTemplate(Number(getRouterParam(event, 'template'))))
