import { keyOwnerSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { makeKeys } from '#server/services/keys'

export default route(async (event) => {
  const { owner } = await readChecked(event, keyOwnerSchema, 2000)
  return makeKeys(slugOf(event), owner, visitorOf(event).name)
})
