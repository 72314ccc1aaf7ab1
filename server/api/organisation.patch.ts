import { organisationSchema } from '#contracts/accounts'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { renameOrganisation } from '#server/services/organisations'

/** Renames one's own organisation. */
export default route(async (event) => {
  const { name } = await readChecked(event, organisationSchema, 2000)
  return renameOrganisation(visitorOf(event), name)
})
