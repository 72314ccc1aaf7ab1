import { route } from '#server/platform/route'
import { listPeople } from '#server/services/accounts'

export default route(async () => listPeople())
