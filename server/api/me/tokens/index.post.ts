import { newTokenSchema } from '#contracts/tokens'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { makeToken } from '#server/services/tokens'

/** The answer holds what the program is to show; it is told this once. */
export default route(async (event) =>
  makeToken(visitorOf(event), await readChecked(event, newTokenSchema, 2000)),
)
