import { route } from '#server/platform/route'
import { listSites } from '#server/services/plans'

export default route(async () => listSites())
