import { newOrganisationSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { addOrganisation } from '#server/services/organisations'

/** The answer holds the link that is to be handed to its first administrator; it is told this once. */
export default route(async (event) => {
  const { name, administrator } = await readChecked(event, newOrganisationSchema, 2000)
  return addOrganisation(name, administrator)
})
