import { route, slugOf } from '#server/platform/route'
import { labOf } from '#server/services/lab'

export default route(async (event) => labOf(slugOf(event)))
