import { linkMailSchema } from '#contracts/accounts'
import { numberOf, readChecked, route, visitorOf } from '#server/platform/route'
import { mailLink } from '#server/services/link-mail'

export default route(async (event) => {
  const { token, to } = await readChecked(event, linkMailSchema, 1000)
  return mailLink(numberOf(event, 'person'), token, to, visitorOf(event))
})
