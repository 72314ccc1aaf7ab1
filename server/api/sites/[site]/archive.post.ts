import { archiveSchema } from '#contracts/api'
import { readChecked, route, slugOf } from '#server/platform/route'
import { archiveSite } from '#server/services/sites'

export default route(async (event) => {
  const { isArchived } = await readChecked(event, archiveSchema, 2000)
  return archiveSite(slugOf(event), isArchived)
})
