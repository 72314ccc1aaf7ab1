import { emptySchema } from '#contracts/api'
import { numberOf, readChecked, route, visitorOf } from '#server/platform/route'
import { linkFor } from '#server/services/accounts'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  return linkFor(numberOf(event, 'person'), visitorOf(event))
})
