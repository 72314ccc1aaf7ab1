import { askLabSchema } from '#contracts/api'
import { meOf, readChecked, route, slugOf } from '#server/platform/route'
import { askLab } from '#server/services/proof'

export default route(async (event) => {
  const { revision } = await readChecked(event, askLabSchema, 2000)
  return askLab(slugOf(event), revision, meOf(event).name)
})
