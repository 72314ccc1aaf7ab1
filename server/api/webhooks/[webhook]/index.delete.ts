import { numberOf, route } from '#server/platform/route'
import { removeWebhook } from '#server/services/webhooks'

export default route(async (event) => removeWebhook(numberOf(event, 'webhook')))
