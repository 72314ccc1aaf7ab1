import { meOf, route } from '#server/platform/route'

export default route(async (event) => meOf(event))
