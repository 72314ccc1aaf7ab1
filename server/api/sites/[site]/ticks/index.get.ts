import { route, slugOf } from '#server/platform/route'
import { listTicks } from '#server/services/ticks'

export default route(async (event) => listTicks(slugOf(event)))
