import type { MailedLink } from '#contracts/accounts'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { sendMail } from '#server/platform/mail'
import { refused, type Visitor } from '#server/platform/route'
import { organisationNow } from '#server/platform/scope'
import { settings } from '#server/platform/settings'
import { countLines } from '#server/repo/audit'
import { linkMail } from './mail-words'
import { openLinkOf } from './accounts'

const HOUR_MS = 3_600_000
/** Most mails of an organisation in an hour: somebody adds people one by one (practice). */
const MOST_AN_HOUR = 60

/**
 * Sends somebody the link that was just made for them. It stays as it is, to be handed over in another way, too.
 * @param token what the link proves, as it was told when it was made: it is kept nowhere
 */
export async function mailLink(id: number, token: string, to: string, by: Visitor): Promise<MailedLink> {
  const { mail } = settings()
  if (!mail) throw refused(409, 'no-mail-server')
  const { name, kind, expiresAt } = await openLinkOf(id, token, by)
  const since = new Date(now().getTime() - HOUR_MS)
  if ((await countLines(database(), organisationNow(), 'link-mailed', since)) >= MOST_AN_HOUR)
    throw refused(429, 'too-many-mails', '', { most: MOST_AN_HOUR })
  const href = new URL(`/join#${token}`, mail.here).href
  const { organisation } = by
  await sendMail({
    to,
    ...linkMail({ kind, name, by: by.name, organisation: organisation.name, href, expiresAt }),
  })
  return { name, to }
}
