import { auditQuerySchema } from '#contracts/audit'
import { queryOf, route, visitorOf } from '#server/platform/route'
import { listAudit } from '#server/services/audit'

export default route(async (event) => listAudit(queryOf(event, auditQuerySchema), visitorOf(event)))
