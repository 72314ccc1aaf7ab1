import { route, visitorOf } from '#server/platform/route'
import { exportAudit } from '#server/services/audit'

export default route(async (event) => {
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': 'attachment; filename="audit.csv"',
  })
  return exportAudit(visitorOf(event))
})
