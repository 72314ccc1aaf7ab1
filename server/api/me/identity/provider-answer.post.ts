import { providerAnswerSchema } from '#contracts/single-sign-on'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { addressOf, takeSignOn } from '#server/platform/visits'
import { connect } from '#server/services/single-sign-on'

export default route(async (event) => {
  const { query } = await readChecked(event, providerAnswerSchema, 5000)
  return connect(visitorOf(event), query, await takeSignOn(event), addressOf(event))
})
