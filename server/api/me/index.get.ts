import { visitorOf, route } from '#server/platform/route'
import { meBy } from '#server/services/sessions'

/** As it is now: what was kept of whoever asks may be some seconds old. */
export default route(async (event) => meBy(visitorOf(event).sessionId))
