import { emptySchema } from '#contracts/api'
import { readChecked, route, slugOf } from '#server/platform/route'
import { restoreSite } from '#server/services/sites'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  return restoreSite(slugOf(event))
})
