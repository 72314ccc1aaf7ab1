import { route, visitorOf } from '#server/platform/route'
import { listSites } from '#server/services/standing'

export default route(async (event) => listSites(visitorOf(event)))
