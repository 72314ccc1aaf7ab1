import { transferSchema } from '#contracts/accounts'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { takeSite } from '#server/services/organisations'

/** Takes over a site that another organisation offered by a code. */
export default route(async (event) => {
  const { code } = await readChecked(event, transferSchema, 2000)
  return takeSite(code, visitorOf(event))
})
