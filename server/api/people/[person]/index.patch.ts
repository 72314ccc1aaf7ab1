import { personChangeSchema } from '#contracts/accounts'
import { numberOf, readChecked, route, visitorOf } from '#server/platform/route'
import { changePerson } from '#server/services/accounts'

export default route(async (event) => {
  const change = await readChecked(event, personChangeSchema, 50_000)
  return changePerson(numberOf(event, 'person'), change, visitorOf(event))
})
