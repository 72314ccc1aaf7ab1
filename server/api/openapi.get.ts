import { openApi } from '#server/openapi'
import { keptRoute } from '#server/platform/route'

export default keptRoute(async () => openApi)
