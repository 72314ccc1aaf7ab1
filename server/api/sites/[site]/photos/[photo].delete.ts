import { visitorOf, route, slugOf } from '#server/platform/route'
import { dropPhoto } from '#server/services/photos'

export default route(async (event) =>
  dropPhoto(slugOf(event), getRouterParam(event, 'photo') ?? '', visitorOf(event)),
)
