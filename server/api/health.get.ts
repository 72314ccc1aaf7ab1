import { route } from '#server/platform/route'
import { listSites } from '#server/services/sites'

/** Answers where the database does. */
export default route(async () => {
  await listSites()
  return { well: true }
})
