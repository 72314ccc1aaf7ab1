import { route } from '#server/platform/route'
import { listOrganisations } from '#server/services/organisations'

export default route(async () => listOrganisations())
