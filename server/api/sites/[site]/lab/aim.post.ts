import { labAimSchema } from '#contracts/api'
import { readChecked, route, slugOf } from '#server/platform/route'
import { listLevels, turnSimulated } from '#server/services/levels'

export default route(async (event) => {
  await turnSimulated(slugOf(event), await readChecked(event, labAimSchema, 2000))
  return listLevels(slugOf(event))
})
