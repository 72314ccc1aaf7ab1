import { route, slugOf } from '#server/platform/route'
import { purgeSite } from '#server/services/sites'

/** Removes for good. */
export default route(async (event) => purgeSite(slugOf(event)))
