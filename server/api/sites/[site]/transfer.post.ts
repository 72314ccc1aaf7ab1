import { emptySchema } from '#contracts/api'
import { readChecked, route, slugOf } from '#server/platform/route'
import { offerSite } from '#server/services/organisations'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  return offerSite(slugOf(event))
})
