import { organisationSchema } from '#contracts/accounts'
import { readChecked, route, visitorOf } from '#server/platform/route'
import { changeOrganisation } from '#server/services/organisations'

/** Renames one's own organisation, or asks everybody in it for a second factor. */
export default route(async (event) => {
  const change = await readChecked(event, organisationSchema, 2000)
  return changeOrganisation(visitorOf(event), change)
})
