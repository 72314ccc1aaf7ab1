import { showPassphraseSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { showPassphrase } from '#server/services/passphrases'

export default route(async (event) => {
  const { ssid } = await readChecked(event, showPassphraseSchema, 2000)
  return showPassphrase(slugOf(event), ssid, visitorOf(event).name)
})
