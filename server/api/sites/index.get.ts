import { route } from '#server/platform/route'
import { listSites } from '#server/services/sites'

export default route(async () => listSites())
