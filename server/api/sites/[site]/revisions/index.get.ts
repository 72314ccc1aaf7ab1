import { route, slugOf } from '#server/platform/route'
import { revisionsOf } from '#server/services/plans'

export default route(async (event) => revisionsOf(slugOf(event)))
