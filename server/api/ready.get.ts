import { route } from '#server/platform/route'
import { readinessNow } from '#server/services/readiness'

/** 503 where something is missing: then nobody should be sent here. */
export default route(async (event) => {
  const ready = await readinessNow()
  if (!Object.values(ready).every(Boolean)) setResponseStatus(event, 503)
  return ready
})
