import { route, visitorOf } from '#server/platform/route'
import { endOwnSession } from '#server/services/sessions'

export default route(async (event) => endOwnSession(visitorOf(event), getRouterParam(event, 'session') ?? ''))
