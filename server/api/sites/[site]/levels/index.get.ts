import { route, slugOf } from '#server/platform/route'
import { listLevels } from '#server/services/levels'

export default route(async (event) => listLevels(slugOf(event)))
