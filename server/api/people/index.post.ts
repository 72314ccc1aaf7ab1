import { newPersonSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { invite } from '#server/services/accounts'

/** The answer holds the link that is to be handed to them; it is told this once. */
export default route(async (event) => {
  const { sites = [], ...wanted } = await readChecked(event, newPersonSchema, 50_000)
  return invite({ ...wanted, sites })
})
