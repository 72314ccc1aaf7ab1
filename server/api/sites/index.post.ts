import { importSiteSchema } from '#contracts/api'
import { MOST_PLAN_BYTES } from '#contracts/plan'
import { visitorOf, readChecked, route } from '#server/platform/route'
import { importSite } from '#server/services/plans'

/** Keeps a site file as a new site. JSON in JSON may take twice the room of the file. */
export default route(async (event) => {
  const { text, words } = await readChecked(event, importSiteSchema, 2 * MOST_PLAN_BYTES)
  return importSite(text, visitorOf(event).name, words)
})
