import { setPassphraseSchema } from '#contracts/api'
import { visitorOf, readChecked, route, slugOf } from '#server/platform/route'
import { setPassphrase } from '#server/services/passphrases'

export default route(async (event) => {
  const { ssid, passphrase } = await readChecked(event, setPassphraseSchema, 2000)
  return setPassphrase(slugOf(event), ssid, passphrase, visitorOf(event).name)
})
