import { route, visitorOf } from '#server/platform/route'
import { listSites } from '#server/services/sites'

export default route(async (event) => listSites(visitorOf(event)))
