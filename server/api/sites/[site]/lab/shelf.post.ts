import { emptySchema } from '#contracts/api'
import { readChecked, route, slugOf } from '#server/platform/route'
import { fillShelf, labOf } from '#server/services/lab'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  await fillShelf(slugOf(event))
  return labOf(slugOf(event))
})
