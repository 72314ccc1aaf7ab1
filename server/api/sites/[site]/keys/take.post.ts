import { takeKeySchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { takeKey } from '#server/services/keys'

export default route(async (event) => {
  const { owner, privateKey } = await readChecked(event, takeKeySchema, 2000)
  return takeKey(slugOf(event), owner, privateKey, visitorOf(event).name)
})
