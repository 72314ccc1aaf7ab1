import { route } from '#server/platform/route'
import { checkAudit } from '#server/services/audit'

export default route(async () => checkAudit())
