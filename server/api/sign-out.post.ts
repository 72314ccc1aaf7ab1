import { route, visitorOf } from '#server/platform/route'
import { endOwnSession } from '#server/services/sessions'

export default route(async (event) => {
  const visitor = visitorOf(event)
  await endOwnSession(visitor, visitor.sessionId)
  await clearUserSession(event)
  return {}
})
