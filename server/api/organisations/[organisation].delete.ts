import { numberOf, route, visitorOf } from '#server/platform/route'
import { removeOrganisation } from '#server/services/organisations'

export default route(async (event) => removeOrganisation(numberOf(event, 'organisation'), visitorOf(event)))
