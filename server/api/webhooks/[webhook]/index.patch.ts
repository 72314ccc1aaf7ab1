import { webhookChangeSchema } from '#contracts/webhooks'
import { numberOf, readChecked, route } from '#server/platform/route'
import { pauseWebhook } from '#server/services/webhooks'

export default route(async (event) => {
  const { isPaused } = await readChecked(event, webhookChangeSchema, 200)
  return pauseWebhook(numberOf(event, 'webhook'), isPaused)
})
