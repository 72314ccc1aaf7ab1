import { route, slugOf } from '#server/platform/route'
import { listKeys } from '#server/services/keys'

export default route(async (event) => listKeys(slugOf(event)))
