import { route, slugOf } from '#server/platform/route'
import { exported } from '#server/services/export'

export default route(async (event) => {
  const { text, type, name } = await exported(slugOf(event), getRouterParam(event, 'file') ?? '')
  setResponseHeaders(event, { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` })
  return text
})
