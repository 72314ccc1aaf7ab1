import { visitorOf, route } from '#server/platform/route'
import { meOf } from '#server/services/sessions'

export default route(async (event) => meOf(visitorOf(event)))
