import { route, slugOf } from '#server/platform/route'
import { listPassphrases } from '#server/services/passphrases'

export default route(async (event) => listPassphrases(slugOf(event)))
