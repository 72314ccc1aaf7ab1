import { route } from '#server/platform/route'
import { fleetAddresses } from '#server/services/plans'

export default route(async () => fleetAddresses())
