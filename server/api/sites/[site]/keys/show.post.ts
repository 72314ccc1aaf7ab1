import { showKeySchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { showFile } from '#server/services/keys'

export default route(async (event) => {
  const { owner, next } = await readChecked(event, showKeySchema, 2000)
  return showFile(slugOf(event), owner, next, visitorOf(event).name)
})
