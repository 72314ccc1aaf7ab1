import { route } from '#server/platform/route'
import { listDeleted } from '#server/services/sites'

export default route(async () => listDeleted())
