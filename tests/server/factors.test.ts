import { createHmac } from 'node:crypto'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { OneTimeLink, PersonLine } from '#contracts/accounts'
import type { AuditLine } from '#contracts/audit'
import type { Factors, NewAuthenticator, RecoveryCodes } from '#contracts/factors'
import type { Me } from '#contracts/api'
import {
  client,
  codesOf,
  cookiesOf,
  newsOf,
  signedIn,
  startApp,
  type App,
  type Client,
  type Reply,
} from './harness'

// Second factors as an authenticator app gives them: the codes are computed here by the standards' own words.

const PASSWORD = 'walrus-teapot-gravel-noon'
let app: App
let administrator: Client
let count = 0
beforeAll(async () => {
  app = await startApp()
  administrator = await signedIn(app, 'administrator')
})
afterAll(async () => {
  await app.stop()
})

/** RFC 4226, 5.3 and 5.4: HOTP of a counter. */
function hotp(secret: Buffer, counter: number, digits: number): string {
  const moving = Buffer.alloc(8)
  moving.writeBigUInt64BE(BigInt(counter))
  const mac = createHmac('sha1', secret).update(moving).digest()
  const offset = (mac[19] ?? 0) & 15
  return String((mac.readUInt32BE(offset) & 0x7fffffff) % 10 ** digits).padStart(digits, '0')
}
/** RFC 4648, 6. */
function base32(text: string): Buffer {
  const bits = [...text].map((one) =>
    'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(one).toString(2).padStart(5, '0'),
  )
  return Buffer.from((bits.join('').match(/.{8}/g) ?? []).map((octet) => Number.parseInt(octet, 2)))
}
const stepNow = (): number => Math.floor(Date.now() / 30_000)
const codeOf = (secret: string, step = stepNow()): string => hotp(base32(secret), step, 6)

async function member() {
  const name = `Guarded ${(count += 1)}`
  const reply = await administrator<{ person: PersonLine; link: OneTimeLink }>('POST', '/api/people', {
    name,
    role: 'rigger',
  })
  const token = reply.body.link.path.split('#')[1]
  const joined = await client(app)('POST', '/api/join', { token, password: PASSWORD })
  return { name, id: reply.body.person.id, browser: client(app, cookiesOf(joined)) }
}
const signIn = (name: string, code?: string, password = PASSWORD) =>
  client(app)<Me>('POST', '/api/sign-in', { name, password, ...(code === undefined ? {} : { code }) })
const refusal = (reply: Reply) => [reply.status, ...codesOf(reply)]
const factorsOf = async (browser: Client) => (await browser<Factors>('GET', '/api/me/factors')).body

/** Somebody with an app; its set-up took the code of the step before. */
async function guarded() {
  const person = await member()
  const { secret, uri } = (
    await person.browser<NewAuthenticator>('POST', '/api/me/totp', { password: PASSWORD })
  ).body
  const confirmed = await person.browser<RecoveryCodes>('POST', '/api/me/totp/confirm', {
    code: codeOf(secret, stepNow() - 1),
  })
  expect(confirmed.status, confirmed.text).toBe(200)
  return { ...person, secret, uri, codes: confirmed.body.codes }
}

describe('the codes of this test', () => {
  it('are those of RFC 6238, appendix B, for SHA-1', () => {
    const secret = Buffer.from('12345678901234567890')
    const told = [
      [59, '94287082'],
      [1_111_111_109, '07081804'],
      [1_234_567_890, '89005924'],
      [2_000_000_000, '69279037'],
    ] as const
    for (const [seconds, code] of told) expect(hotp(secret, Math.floor(seconds / 30), 8)).toBe(code)
  })
})

describe('an authenticator app', () => {
  it('is set up by the password and a code, and asked for from then on', async () => {
    const { name, secret, uri, codes, browser } = await guarded()
    expect(uri).toContain(`secret=${secret}`)
    expect(base32(secret)).toHaveLength(20)
    expect(codes).toHaveLength(10)
    expect(await factorsOf(browser)).toMatchObject({ authenticator: true, recoveryCodes: 10 })
    expect(refusal(await signIn(name))).toEqual([401, 'second-factor-needed'])
    expect(refusal(await signIn(name, '000000'))).toEqual([401, 'code-wrong'])
    const [line] = (await administrator<AuditLine[]>('GET', '/api/audit')).body
    expect(line).toMatchObject({ who: name, what: 'code-refused' })
    const reply = await signIn(name, codeOf(secret))
    expect(reply.body.name).toBe(name)
  })
  it('counts for nothing before a code of it was given, or with another password', async () => {
    const { name, browser } = await member()
    expect(refusal(await browser('POST', '/api/me/totp', { password: 'another' }))).toEqual([
      403,
      'password-wrong',
    ])
    await browser('POST', '/api/me/totp', { password: PASSWORD })
    expect((await signIn(name)).status).toBe(200)
    expect(refusal(await browser('POST', '/api/me/totp/confirm', { code: '000000' }))).toEqual([
      403,
      'code-wrong',
    ])
    expect((await factorsOf(browser)).authenticator).toBe(false)
  })
  it('has each code taken once, and none that is older or of another hour', async () => {
    const { name, secret } = await guarded()
    for (const step of [stepNow() - 1, stepNow() - 2, stepNow() + 120])
      expect(refusal(await signIn(name, codeOf(secret, step)))).toEqual([401, 'code-wrong'])
    const code = codeOf(secret)
    const both = await Promise.all([signIn(name, code), signIn(name, code)])
    expect(both.map(({ status }) => status).sort()).toEqual([200, 401])
  })
  it('says nothing to who does not know the password', async () => {
    const { name, secret } = await guarded()
    expect(refusal(await signIn(name, codeOf(secret), 'not the password'))).toEqual([401, 'sign-in-wrong'])
    expect(refusal(await signIn(name, undefined, 'not the password'))).toEqual([401, 'sign-in-wrong'])
  })
  it('lets its owner in whatever others tried, and who has none waits', async () => {
    const { name, secret } = await guarded()
    const open = await member()
    const sql = postgres(app.databaseUrl, { max: 1 })
    for (const one of [name, open.name])
      await sql`insert into sign_in_failures (key, count, last_at) values (${`name ${one.toLowerCase()}`}, 1000, now())
        on conflict (key) do update set count = 1000, last_at = now()`
    await sql.end()
    expect(refusal(await signIn(name))).toEqual([429, 'too-many-tries'])
    expect(refusal(await signIn(open.name, '123456'))).toEqual([429, 'too-many-tries'])
    expect((await signIn(name, codeOf(secret))).status).toBe(200)
  })
  it('cannot be guessed at for long by who knows the password', async () => {
    const { name, secret } = await guarded()
    const tries = await Promise.all(Array.from({ length: 25 }, (_, i) => signIn(name, String(100_000 + i))))
    expect(tries.map(({ status }) => status)).toContain(429)
    expect(refusal(await signIn(name, codeOf(secret)))).toEqual([429, 'too-many-tries'])
  })
  it('is removed by the password, with the recovery codes', async () => {
    const { name, browser } = await guarded()
    expect(refusal(await browser('POST', '/api/me/totp', { password: PASSWORD }))).toEqual([
      409,
      'authenticator-there',
    ])
    expect(refusal(await browser('POST', '/api/me/totp/remove', { password: 'another' }))[0]).toBe(403)
    expect((await browser('POST', '/api/me/totp/remove', { password: PASSWORD })).status).toBe(200)
    expect(await factorsOf(browser)).toMatchObject({ authenticator: false, recoveryCodes: 0 })
    expect((await signIn(name)).status).toBe(200)
  })
  it('lies in the database sealed, and its recovery codes as hashes', async () => {
    const { secret, codes } = await guarded()
    const sql = postgres(app.databaseUrl, { max: 1 })
    const all = JSON.stringify([
      await sql`select * from authenticators`,
      await sql`select * from recovery_codes`,
    ])
    await sql.end()
    expect(all).not.toContain(secret)
    for (const code of codes) expect(all).not.toContain(code)
  })
})

describe('a recovery code', () => {
  it('signs in once, however it is written', async () => {
    const { name, codes, browser } = await guarded()
    const [first = '', second = ''] = codes
    expect((await signIn(name, first)).status).toBe(200)
    expect(refusal(await signIn(name, first))).toEqual([401, 'code-wrong'])
    expect((await signIn(name, ` ${second.toUpperCase().replace('-', ' ')}`)).status).toBe(200)
    expect((await factorsOf(browser)).recoveryCodes).toBe(8)
  })
  it('of before works no more once new ones were made', async () => {
    const { name, codes, browser } = await guarded()
    const made = await browser<RecoveryCodes>('POST', '/api/me/recovery-codes', { password: PASSWORD })
    expect(made.body.codes).toHaveLength(10)
    expect(refusal(await signIn(name, codes[0]))).toEqual([401, 'code-wrong'])
    expect((await signIn(name, made.body.codes[0])).status).toBe(200)
  })
  it('is for who has a second factor', async () => {
    const { browser } = await member()
    const reply = await browser('POST', '/api/me/recovery-codes', { password: PASSWORD })
    expect(refusal(reply)).toEqual([409, 'no-second-factor'])
  })
})

describe('a link for a new password', () => {
  it('does not take the place of a second factor', async () => {
    const { name, id, secret, browser } = await guarded()
    const link = await administrator<OneTimeLink>('POST', `/api/people/${id}/link`, {})
    const token = link.body.path.split('#')[1]
    const wanted = 'lantern-biscuit-gable-moss'
    const reply = await client(app)('POST', '/api/join', { token, password: wanted })
    expect([reply.status, reply.body, cookiesOf(reply)]).toEqual([200, { name }, ''])
    expect((await browser('GET', '/api/me')).status).toBe(401)
    expect(refusal(await signIn(name, undefined, wanted))).toEqual([401, 'second-factor-needed'])
    expect((await signIn(name, codeOf(secret), wanted)).status).toBe(200)
  })
})

describe('an administrator', () => {
  it('sees who has a second factor, and clears it for who has lost it', async () => {
    const { name, id, browser } = await guarded()
    const line = async () =>
      (await administrator<PersonLine[]>('GET', '/api/people')).body.find((person) => person.name === name)
    expect((await line())?.hasFactor).toBe(true)
    expect((await administrator('POST', `/api/people/${id}/clear-factors`, {})).status).toBe(200)
    expect((await line())?.hasFactor).toBe(false)
    expect((await browser('GET', '/api/me')).status).toBe(401)
    expect((await signIn(name)).status).toBe(200)
  })
})

describe('a passkey', () => {
  it('is not offered where browsers would refuse it, and is not taken from who was given no challenge', async () => {
    const { browser } = await member()
    expect((await factorsOf(browser)).canPasskey).toBe(false)
    const options = await browser('POST', '/api/me/passkeys/options', { password: PASSWORD })
    expect(refusal(options)).toEqual([409, 'no-passkeys-here'])
    const nobody = client({ ...app, url: app.url.replace('127.0.0.1', 'localhost') })
    const made = { id: 'AAAA', rawId: 'AAAA', type: 'public-key', clientExtensionResults: {} }
    const answer = { clientDataJSON: 'AAAA', authenticatorData: 'AAAA', signature: 'AAAA' }
    const reply = await nobody('POST', '/api/sign-in/passkey', { response: { ...made, response: answer } })
    expect(refusal(reply)).toEqual([401, 'passkey-wrong'])
    const asked = await nobody<{ challenge: string; rpId: string; userVerification: string }>(
      'POST',
      '/api/sign-in/passkey-options',
      {},
    )
    expect(asked.body).toMatchObject({ rpId: 'localhost', userVerification: 'required' })
    expect(asked.body).not.toHaveProperty('allowCredentials.0')
  })
})

describe('an organisation that asks everybody for a second factor', () => {
  const ask = (who: Client, needsFactor: boolean) => who('PATCH', '/api/organisation', { needsFactor })
  const joinBy = ({ path }: OneTimeLink) =>
    client(app)<Me>('POST', '/api/join', { token: path.split('#')[1], password: PASSWORD })
  const confirm = async (who: Client) => {
    const { secret } = (await who<NewAuthenticator>('POST', '/api/me/totp', { password: PASSWORD })).body
    return who('POST', '/api/me/totp/confirm', { code: codeOf(secret, stepNow()) })
  }
  /** An organisation of its own, and who administers it. */
  async function headOf(name: string): Promise<Client> {
    const told = { name, administrator: `Head of ${name}` }
    const made = await administrator<{ link: OneTimeLink }>('POST', '/api/organisations', told)
    return client(app, cookiesOf(await joinBy(made.body.link)))
  }
  async function addedBy(head: Client, name: string): Promise<Reply<Me>> {
    const added = await head<{ link: OneTimeLink }>('POST', '/api/people', { name, role: 'planner' })
    return joinBy(added.body.link)
  }

  it('is one whose administrator has one, and holds up who has none until they do', async () => {
    const head = await headOf('Strict Works')
    expect(refusal(await ask(head, true))).toEqual([409, 'own-factor-first'])
    expect((await confirm(head)).status).toBe(200)
    expect((await ask(head, true)).status).toBe(200)

    const reply = await addedBy(head, 'Strict Hand')
    expect(reply.body).toMatchObject({ needsFactor: true, hasFactor: false })
    const hand = client(app, cookiesOf(reply))
    for (const [method, path, body] of [
      ['GET', '/api/sites', undefined],
      ['GET', '/api/fleet', undefined],
      ['POST', '/api/sites', { text: '{}' }],
    ] as const)
      expect(refusal(await hand(method, path, body))).toEqual([403, 'factor-needed'])
    const wanted = { name: 'Way round', mayWrite: false, days: 7, password: PASSWORD }
    const { token: program } = (await hand<{ token: string }>('POST', '/api/me/tokens', wanted)).body
    const round = await client(app)('GET', '/api/sites', undefined, {
      origin: '',
      authorization: `Bearer ${program}`,
    })
    expect(refusal(round)).toEqual([403, 'factor-needed'])
    expect((await confirm(hand)).status).toBe(200)
    expect((await hand('GET', '/api/sites')).status, 'at once').toBe(200)
    expect((await hand<Me>('GET', '/api/me')).body).toMatchObject({ hasFactor: true })
  })

  it('ends what is open of who has none', async () => {
    const head = await headOf('Strict Yard')
    const text = (await administrator('GET', '/api/sites/gullhaven/export/site.json')).text
    const { slug } = (await head<{ slug: string }>('POST', '/api/sites', { text })).body
    const joined = await addedBy(head, 'Yard Hand')
    const stream = await newsOf(app, slug, cookiesOf(joined))
    expect((await confirm(head)).status).toBe(200)
    expect((await ask(head, true)).status).toBe(200)
    await stream.ended
    const hand = client(app, cookiesOf(joined))
    expect(refusal(await hand('GET', `/api/sites/${slug}/news`))).toEqual([403, 'factor-needed'])
    expect((await hand('GET', '/api/me')).status, 'signed in all the same').toBe(200)
  })
})
