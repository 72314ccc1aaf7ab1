import { route, slugOf } from '#server/platform/route'
import { rosterOf } from '#server/services/roster'

export default route(async (event) => rosterOf(slugOf(event)))
