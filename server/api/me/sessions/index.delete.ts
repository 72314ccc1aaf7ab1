import { route, visitorOf } from '#server/platform/route'
import { endOtherSessions } from '#server/services/sessions'

export default route(async (event) => endOtherSessions(visitorOf(event)))
