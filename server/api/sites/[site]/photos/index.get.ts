import { route, slugOf } from '#server/platform/route'
import { listPhotos } from '#server/services/photos'

export default route(async (event) => listPhotos(slugOf(event)))
