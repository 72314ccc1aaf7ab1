import { route } from '#server/platform/route'
import { signInWays } from '#server/services/single-sign-on'

export default route(async () => signInWays())
