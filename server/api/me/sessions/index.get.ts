import { route, visitorOf } from '#server/platform/route'
import { sessionsOf } from '#server/services/sessions'

export default route(async (event) => sessionsOf(visitorOf(event)))
