import { askLabSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { askLab } from '#server/services/proof'

export default route(async (event) => {
  const { revision } = await readChecked(event, askLabSchema, 2000)
  return askLab(slugOf(event), revision, visitorOf(event).name)
})
