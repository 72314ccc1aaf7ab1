import { route } from '#server/platform/route'
import { hasDatabase } from '#server/services/readiness'

/** Whether this process lives and reaches its database: who it is asked by restarts it where it does not. */
export default route(async () => ({ well: await hasDatabase() }))
