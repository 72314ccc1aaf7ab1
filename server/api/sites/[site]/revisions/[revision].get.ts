import { refused, route, slugOf } from '#server/platform/route'
import { revisionOf } from '#server/services/plans'

export default route(async (event) => {
  const text = getRouterParam(event, 'revision') ?? ''
  if (!/^[1-9]\d{0,8}$/.test(text)) throw refused(400, 'no-such-revision', text.slice(0, 20))
  return revisionOf(slugOf(event), Number(text))
})
