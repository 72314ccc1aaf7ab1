import { numberOf, route, visitorOf } from '#server/platform/route'
import { removePerson } from '#server/services/accounts'

export default route(async (event) => removePerson(numberOf(event, 'person'), visitorOf(event)))
