import { keyOwnerSchema } from '#contracts/api'
import { meOf, readChecked, route, slugOf } from '#server/platform/route'
import { showFile } from '#server/services/keys'

export default route(async (event) => {
  const { owner } = await readChecked(event, keyOwnerSchema, 2000)
  return showFile(slugOf(event), owner, meOf(event).name)
})
