import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { OneTimeLink, PersonLine } from '#contracts/accounts'
import type { AuditLine } from '#contracts/audit'
import { freePort } from '../../tools/postgres.mjs'
import { mailEnv, startStandInMail, type StandInMail } from '../stand-in-mail'
import { client, codesOf, signedIn, startApp, type App, type Client, type Reply } from './harness'

// A mail server can be named, by which links are sent.

interface Added {
  readonly person: PersonLine
  readonly link: OneTimeLink
}

let app: App
let port = 0
let mail: StandInMail
let administrator: Client

const appWith = async (host: string): Promise<App> => {
  const own = await freePort()
  return startApp({ port: own, env: mailEnv(host, port, `http://127.0.0.1:${own}`) })
}

const add = async (by: Client, name: string): Promise<Added> =>
  (await by<Added>('POST', '/api/people', { name, role: 'rigger' })).body
const tokenOf = ({ link }: Pick<Added, 'link'>): string => link.path.split('#')[1] ?? ''
const send = ({ person, link }: Added, to: string, by = administrator): Promise<Reply> =>
  by('POST', `/api/people/${person.id}/link-mail`, { token: tokenOf({ link }), to })

beforeAll(async () => {
  port = await freePort()
  mail = await startStandInMail(port)
  app = await appWith('127.0.0.1')
  administrator = await signedIn(app, 'administrator')
})
afterAll(async () => {
  await app.stop()
  await mail.stop()
})
beforeEach(() => {
  mail.taken.length = 0
  mail.asked = 0
})

describe('a link that was just made', () => {
  it('is sent to the address that is typed, and works as it does when handed over', async () => {
    const made = await add(administrator, 'Sailmaker')
    expect(made.link.canBeMailed).toBe(true)
    const reply = await send(made, 'sail@loft.example')
    expect(reply.body).toEqual({ name: 'Sailmaker', to: 'sail@loft.example' })
    const [sent] = mail.taken
    expect([sent?.from, sent?.to]).toEqual(['mast@harbour.example', ['sail@loft.example']])
    expect(sent?.text).toMatch(/^Subject: Able Mast: choose your password\r$/m)
    expect(sent?.text).toMatch(/^From: Able Mast <mast@harbour\.example>\r$/m)
    const [, token = ''] = /#([\w-]+)/.exec(sent?.text ?? '') ?? []
    expect(sent?.text).toContain(`${app.url}${made.link.path}`)
    const joined = await client(app)('POST', '/api/join', { token, password: 'gull-over-the-yard-arm-7' })
    expect(joined.status, joined.text).toBe(200)
    const lines = (await administrator<AuditLine[]>('GET', '/api/audit?what=link-mailed')).body
    expect(lines[0]?.subject).toBe('Sailmaker, sail@loft.example')
  })

  it('says so where it is for a new password', async () => {
    const { person } = await add(administrator, 'Cooper')
    const first = await administrator<OneTimeLink>('POST', `/api/people/${person.id}/link`, {})
    await client(app)('POST', '/api/join', {
      token: tokenOf({ link: first.body }),
      password: 'gull-over-the-yard-arm-7',
    })
    const link = (await administrator<OneTimeLink>('POST', `/api/people/${person.id}/link`, {})).body
    expect((await send({ person, link }, 'cooper@loft.example')).status).toBe(200)
    expect(mail.taken[0]?.text).toMatch(/^Subject: Able Mast: choose a new password\r$/m)
  })

  it('goes to one address, of the person that it is for, and to nobody by a link that is not open', async () => {
    const [made, other] = [await add(administrator, 'Purser'), await add(administrator, 'Bosun')]
    const twice = 'a@loft.example, b@loft.example'
    const header = 'a@loft.example\r\nBcc: b@loft.example'
    for (const to of [twice, header, 'a', `${'a'.repeat(250)}@b.example`])
      expect((await send(made, to)).status, to).toBe(400)
    const crossed = await send({ person: other.person, link: made.link }, 'a@loft.example')
    expect([crossed.status, codesOf(crossed)]).toEqual([404, ['no-such-link']])
    const gone = await send({ ...made, link: { ...made.link, path: '/join#nothing' } }, 'a@loft.example')
    expect([gone.status, codesOf(gone)]).toEqual([404, ['no-such-link']])
    expect(mail.asked).toBe(0)
  })
})

describe('a mail that is not taken', () => {
  const why = async (reply: Promise<Reply>) => {
    const { status, body } = (await reply) as Reply<{ problems: { values: { reason: string } }[] }>
    return [status, body.problems[0]?.values.reason]
  }

  it('is told with why, and the link stays', async () => {
    const made = await add(administrator, 'Lamplighter')
    expect(await why(send(made, 'lamp@nowhere.example'))).toEqual([502, 'address'])
    mail.knowsUs = false
    expect(await why(send(made, 'lamp@loft.example'))).toEqual([502, 'sign-in'])
    mail.knowsUs = true
    expect((await send(made, 'lamp@loft.example')).status).toBe(200)
  })

  it('goes to no other machine without encryption, not even the password for it', async () => {
    // A loopback address that is not taken for this machine.
    const elsewhere = await appWith('127.0.0.2')
    try {
      const head = await signedIn(elsewhere, 'administrator')
      const made = await add(head, 'Lamplighter')
      expect(await why(send(made, 'lamp@loft.example', head))).toEqual([502, 'tls'])
      expect(mail.asked).toBe(0)
    } finally {
      await elsewhere.stop()
    }
  })

  it('is not sent sixty times an hour and once more', async () => {
    const made = await add(administrator, 'Ropemaker')
    let reply = await send(made, 'rope@loft.example')
    for (let sent = 0; reply.status === 200 && sent < 60; sent++)
      reply = await send(made, 'rope@loft.example')
    expect([reply.status, codesOf(reply)]).toEqual([429, ['too-many-mails']])
    const lines = (await administrator<AuditLine[]>('GET', '/api/audit?what=link-mailed')).body
    expect(lines.length).toBeGreaterThanOrEqual(50)
  })
})

describe('without a mail server', () => {
  it('links are handed over, and nothing else is missing', async () => {
    const bare = await startApp()
    try {
      const head = await signedIn(bare, 'administrator')
      const made = await add(head, 'Sailmaker')
      expect(made.link.canBeMailed).toBe(false)
      const reply = await send(made, 'sail@loft.example', head)
      expect([reply.status, codesOf(reply)]).toEqual([409, ['no-mail-server']])
    } finally {
      await bare.stop()
    }
  })
})
