import { personChangeSchema } from '#contracts/accounts'
import { numberOf, readChecked, route } from '#server/platform/route'
import { changePerson } from '#server/services/accounts'

export default route(async (event) => {
  const change = await readChecked(event, personChangeSchema, 2000)
  return changePerson(numberOf(event, 'person'), change)
})
