import { emptySchema } from '#contracts/api'
import { numberOf, readChecked, route } from '#server/platform/route'
import { tryWebhook } from '#server/services/webhooks'

export default route(async (event) => {
  await readChecked(event, emptySchema, 100)
  return tryWebhook(numberOf(event, 'webhook'))
})
