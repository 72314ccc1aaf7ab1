import type { LinkFor } from '#contracts/accounts'

// What our mails say.

/** A link by which somebody chooses a password, and by whom it was sent. */
interface LinkMail {
  readonly kind: LinkFor['kind']
  readonly name: string
  readonly by: string
  readonly organisation: string
  readonly href: string
  readonly expiresAt: Date
}

export function linkMail({ kind, name, by, organisation, href, expiresAt }: LinkMail) {
  const why =
    kind === 'invite'
      ? `${by} has added you to ${organisation} on Able Mast.`
      : `${by} has made you a link by which you choose a new password on Able Mast.`
  const until = expiresAt.toISOString().slice(0, 16).replace('T', ' ')
  return {
    subject: kind === 'invite' ? 'Able Mast: choose your password' : 'Able Mast: choose a new password',
    text: [
      `Hello ${name},`,
      `${why} Open this and choose a password:`,
      href,
      `It works once, until ${until} (UTC). Whoever opens it first chooses the password: pass it on to nobody.`,
      'If you do not know what this is about, leave it unopened, and tell whoever looks after your network.',
      '',
    ].join('\n\n'),
  }
}
