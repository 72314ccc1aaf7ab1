import { route } from '#server/platform/route'
import { listTemplates } from '#server/services/templates'

export default route(async () => listTemplates())
