import { linkSchema } from '#contracts/accounts'
import { readChecked, route } from '#server/platform/route'
import { whomFor } from '#server/services/accounts'

/** Whom a link is for, asked before a password is chosen by it. */
export default route(async (event) => whomFor((await readChecked(event, linkSchema, 2000)).token))
