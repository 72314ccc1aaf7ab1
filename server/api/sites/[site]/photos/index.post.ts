import { photoSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { keepPhoto } from '#server/services/photos'

export default route(async (event) =>
  keepPhoto(slugOf(event), await readChecked(event, photoSchema, 600_000), visitorOf(event).name),
)
