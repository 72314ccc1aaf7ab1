import { route } from '#server/platform/route'
import { listWebhooks } from '#server/services/webhooks'

export default route(async () => listWebhooks())
