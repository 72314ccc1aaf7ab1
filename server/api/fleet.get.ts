import { route, visitorOf } from '#server/platform/route'
import { fleetAddresses } from '#server/services/plans'

export default route(async (event) => fleetAddresses(visitorOf(event)))
