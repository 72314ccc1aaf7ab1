import { sitesQuerySchema } from '#contracts/api'
import { queryOf, route, visitorOf } from '#server/platform/route'
import { listSites } from '#server/services/standing'

export default route(async (event) => {
  const { after = '' } = queryOf(event, sitesQuerySchema)
  return listSites(visitorOf(event), after)
})
