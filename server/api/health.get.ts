import { route } from '#server/platform/route'
import { listSites } from '#server/services/sites'

/** Whether this process lives and reaches its database: who it is asked by restarts it where it does not. */
export default route(async () => {
  await listSites()
  return { well: true }
})
