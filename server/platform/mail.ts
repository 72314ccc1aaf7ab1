import { createTransport } from 'nodemailer'
import { describeError, log } from './log'
import { refused } from './route'
import { settings } from './settings'

// Mails, by the mail server that whoever runs this has named. Nothing depends on one.

const TIMEOUT_MS = 10_000
/** RFC 8314, 3.3: submission over TLS from the start; RFC 6409, 3.1: submission. */
const PORTS: Readonly<Record<string, number>> = { 'smtps:': 465, 'smtp:': 587 }
const isHere = (host: string): boolean => ['localhost', '127.0.0.1', '[::1]'].includes(host)

/** What nodemailer calls the reasons that somebody can do something about. */
const REASONS: Readonly<Record<string, string>> = {
  EENVELOPE: 'address',
  EAUTH: 'sign-in',
  ETLS: 'tls',
}
const reasonOf = (error: unknown): string =>
  (error instanceof Error && 'code' in error && REASONS[String(error.code)]) || 'unreachable'

export interface Mail {
  readonly to: string
  readonly subject: string
  readonly text: string
}

/**
 * Sends a mail, at once: it holds what must not lie in a queue.
 * A server that is not on this machine is spoken to over TLS alone (RFC 8314).
 * @throws Refused `no-mail-server`, or `mail-not-sent` with why
 */
export async function sendMail(mail: Mail): Promise<void> {
  const server = settings().mail
  if (!server) throw refused(409, 'no-mail-server')
  const { protocol, hostname, port, username, password } = server.url
  const isTls = protocol === 'smtps:'
  const transport = createTransport({
    host: hostname.replace(/^\[(.*)\]$/, '$1'),
    port: Number(port) || PORTS[protocol],
    secure: isTls,
    requireTLS: !isTls && !isHere(hostname),
    ...(username === ''
      ? {}
      : { auth: { user: decodeURIComponent(username), pass: decodeURIComponent(password) } }),
    connectionTimeout: TIMEOUT_MS,
    greetingTimeout: TIMEOUT_MS,
    socketTimeout: TIMEOUT_MS,
    disableFileAccess: true,
    disableUrlAccess: true,
  })
  try {
    await transport.sendMail({ ...mail, from: server.from })
  } catch (error) {
    log.warn({ error: describeError(error) }, 'a mail was not sent')
    throw refused(502, 'mail-not-sent', 'to', { reason: reasonOf(error) })
  } finally {
    transport.close()
  }
}
