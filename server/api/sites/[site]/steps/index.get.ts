import { isCounted } from '#contracts/api'
import { route, slugOf } from '#server/platform/route'
import { listSteps } from '#server/services/steps'

export default route(async (event) => {
  const after = Number(getQuery(event)['after'] ?? 0)
  return listSteps(slugOf(event), isCounted(after) ? after : 0)
})
