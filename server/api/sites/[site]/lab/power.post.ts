import { labPowerSchema } from '#contracts/api'
import { readChecked, route, slugOf } from '#server/platform/route'
import { labAction, labOf } from '#server/services/lab'

export default route(async (event) => {
  const { serial, action } = await readChecked(event, labPowerSchema, 2000)
  await labAction(slugOf(event), serial, action)
  return labOf(slugOf(event))
})
