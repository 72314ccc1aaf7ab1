import { emptySchema } from '#contracts/api'
import { numberOf, readChecked, route, visitorOf } from '#server/platform/route'
import { clearFactorsOf } from '#server/services/accounts'

/** For somebody who has lost them: what they have open ends. */
export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  return clearFactorsOf(numberOf(event, 'person'), visitorOf(event))
})
