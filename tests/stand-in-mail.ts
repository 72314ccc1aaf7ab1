import { SMTPServer } from 'smtp-server'

// A mail server that keeps what it takes, played by nodemailer's counterpart.

export interface TakenMail {
  readonly from: string
  readonly to: readonly string[]
  /** Headers and text, with lines that go on put together (RFC 2045, 6.7). */
  readonly text: string
}
export interface StandInMail {
  readonly taken: TakenMail[]
  /** How often somebody began a mail. */
  asked: number
  /** Whether it takes the name and password that it is shown. */
  knowsUs: boolean
  stop(): Promise<void>
}

const USER = 'mast@harbour'
const PASSWORD = 'kept: aside'
/** What a server is told so that it sends mails by it. */
export const mailEnv = (host: string, port: number, publicUrl: string) => ({
  MAST_PUBLIC_URL: publicUrl,
  MAST_SMTP_URL: `smtp://${encodeURIComponent(USER)}:${encodeURIComponent(PASSWORD)}@${host}:${port}`,
  MAST_MAIL_FROM: 'Able Mast <mast@harbour.example>',
})

/** It speaks without encryption, on every address of this machine; nobody at nowhere.example has a mailbox. */
export async function startStandInMail(port: number): Promise<StandInMail> {
  const server = new SMTPServer({
    disabledCommands: ['STARTTLS'],
    allowInsecureAuth: true,
    onAuth: ({ username, password }, _session, done) =>
      mail.knowsUs && username === USER && password === PASSWORD
        ? done(null, { user: username })
        : done(new Error('who is that')),
    onMailFrom: (_address, _session, done) => {
      mail.asked++
      done()
    },
    onRcptTo: ({ address }, _session, done) =>
      address.endsWith('@nowhere.example') ? done(new Error('no such mailbox')) : done(),
    onData: (stream, { envelope }, done) => {
      let text = ''
      stream.on('data', (part: Buffer) => (text += part.toString()))
      stream.on('end', () => {
        mail.taken.push({
          from: envelope.mailFrom ? envelope.mailFrom.address : '',
          to: envelope.rcptTo.map(({ address }) => address),
          text: text.replaceAll('=\r\n', '').replaceAll('=3D', '='),
        })
        done()
      })
    },
  })
  const mail: StandInMail = {
    taken: [],
    asked: 0,
    knowsUs: true,
    stop: () => new Promise<void>((done) => server.close(done)),
  }
  await new Promise<void>((done) => server.listen(port, '0.0.0.0', done))
  return mail
}
