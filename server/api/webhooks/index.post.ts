import { newWebhookSchema } from '#contracts/webhooks'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { addWebhook } from '#server/services/webhooks'

export default route(async (event) =>
  addWebhook(await readChecked(event, newWebhookSchema, 2000), visitorOf(event)),
)
