import postgres from 'postgres'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import type { OneTimeLink, PersonLine } from '#contracts/accounts'
import type { Me } from '#contracts/api'
import type { AuditLine } from '#contracts/audit'
import type { OwnIdentity, ProviderAddress, SignInWays } from '#contracts/single-sign-on'
import { freePort } from '../../tools/postgres.mjs'
import { providerEnv, startStandInProvider, type Lie } from '../stand-in-provider'
import {
  client,
  codesOf,
  cookiesOf,
  personOf,
  signedIn,
  signedInAs,
  startApp,
  type App,
  type Client,
  type Reply,
} from './harness'

// Single sign-on against a stand-in provider, as a browser goes there and comes back.

const PASSWORD = 'walrus-teapot-gravel-noon'
let app: App
let provider: Awaited<ReturnType<typeof startStandInProvider>>
let administrator: Client
let count = 0
beforeAll(async () => {
  const port = await freePort()
  provider = await startStandInProvider(await freePort())
  app = await startApp({ port, env: providerEnv(provider.url, `http://127.0.0.1:${port}`) })
  administrator = await signedIn(app, 'administrator')
})
afterAll(async () => {
  await app.stop()
  await provider.stop()
})
afterEach(() => {
  provider.lie = null
})

const refusal = (reply: Reply) => [reply.status, ...codesOf(reply)]

/** Somebody who was added, and the link they were given. */
async function invited(role = 'rigger') {
  const name = `Single ${(count += 1)}`
  const reply = await administrator<{ person: PersonLine; link: OneTimeLink }>('POST', '/api/people', {
    name,
    role,
  })
  return { name, id: reply.body.person.id, token: reply.body.link.path.split('#')[1] ?? '' }
}
const lineOf = async (id: number) =>
  (await administrator<PersonLine[]>('GET', '/api/people')).body.find((line) => line.id === id)

/** What the provider sends the browser back with, where somebody continues there. */
async function continued(url: string, subject: string): Promise<string> {
  provider.subject = subject
  const text = await (await fetch(url)).text()
  const back = /href="([^"]+)"/.exec(text)?.[1]?.replaceAll('&amp;', '&') ?? ''
  expect(back.startsWith(`${app.url}/single-sign-on?`)).toBe(true)
  return new URL(back).search.slice(1)
}

/** Goes to the provider as a browser does, and back. */
async function there(path: string, told: object, subject: string, cookie = '') {
  const asked = await client(app, cookie)<ProviderAddress>('POST', `/api/${path}`, told)
  expect(asked.status, asked.text).toBe(200)
  const kept = [cookie, cookiesOf(asked)].filter((text) => text !== '').join('; ')
  return { kept, query: await continued(asked.body.url, subject), url: new URL(asked.body.url) }
}
async function through(purpose: 'sign-in' | 'join', told: object, subject: string): Promise<Reply<Me>> {
  const { kept, query } = await there(`${purpose}/provider`, told, subject)
  return client(app, kept)<Me>('POST', `/api/${purpose}/provider-answer`, { query })
}
const signInAs = (subject: string) => through('sign-in', {}, subject)

async function joined(subject: string) {
  const person = await invited()
  const reply = await through('join', { token: person.token }, subject)
  expect(reply.status, reply.text).toBe(200)
  return { ...person, reply, browser: client(app, cookiesOf(reply)) }
}

describe('single sign-on', () => {
  it('lets somebody new in by the provider in place of a password', async () => {
    expect((await client(app)<SignInWays>('GET', '/api/sign-in/ways')).body).toEqual({
      provider: 'Harbour Login',
    })
    const { name, id, token, reply, browser } = await joined('subject-a')
    expect(reply.body).toMatchObject({ name, role: 'rigger', hasPassword: false })
    expect((await browser('GET', '/api/sites')).status).toBe(200)
    expect(await lineOf(id)).toMatchObject({ state: 'active', hasIdentity: true })
    // The link is of no use any longer, and nobody has a password to guess.
    expect(refusal(await client(app)('POST', '/api/join/whom', { token }))).toEqual([404, 'no-such-link'])
    const guess = await client(app)('POST', '/api/sign-in', { name, password: PASSWORD })
    expect(refusal(guess)).toEqual([401, 'sign-in-wrong'])
    const again = await signInAs('subject-a')
    expect(again.body.name).toBe(name)
    const [line] = (await administrator<AuditLine[]>('GET', '/api/audit')).body
    expect(line).toMatchObject({ who: name, what: 'signed-in' })
  })

  it('asks as OpenID Connect Core 3.1.2.1 and RFC 7636 say', async () => {
    const { url } = await there('sign-in/provider', {}, 'anybody')
    const asked = Object.fromEntries(url.searchParams)
    expect(asked).toMatchObject({
      response_type: 'code',
      client_id: 'able-mast',
      scope: 'openid',
      redirect_uri: `${app.url}/single-sign-on`,
      code_challenge_method: 'S256',
    })
    // 256 bits each, as the RFCs advise.
    for (const name of ['state', 'nonce', 'code_challenge'])
      expect(asked[name]?.replace(/^sign-in\./, '')).toMatch(/^[\w-]{43}$/)
    const second = await there('sign-in/provider', {}, 'anybody')
    expect(second.url.searchParams.get('nonce')).not.toBe(asked['nonce'])
  })

  it('lets nobody in whom nobody here is connected with, or who is disabled', async () => {
    expect(refusal(await signInAs('a-stranger'))).toEqual([401, 'identity-unknown'])
    const { id, browser } = await joined('subject-b')
    await administrator('PATCH', `/api/people/${id}`, { isDisabled: true })
    expect((await browser('GET', '/api/me')).status).toBe(401)
    expect(refusal(await signInAs('subject-b'))).toEqual([401, 'identity-unknown'])
  })

  it.each<[Lie, string]>([
    ['issuer', 'provider-answer-wrong'],
    ['audience', 'provider-answer-wrong'],
    ['nonce', 'provider-answer-wrong'],
    ['expired', 'provider-answer-wrong'],
    ['key', 'provider-answer-wrong'],
    ['none', 'provider-answer-wrong'],
    ['refused', 'provider-refused'],
  ])('takes no answer that is wrong in its %s', async (lie, code) => {
    const subject = `lied-${lie}`
    await joined(subject)
    provider.lie = lie
    expect(refusal(await signInAs(subject))).toEqual([401, code])
    provider.lie = null
    expect((await signInAs(subject)).status).toBe(200)
  })

  it('takes an answer once, in the browser that asked, and for what it asked', async () => {
    await joined('subject-c')
    const { kept, query } = await there('sign-in/provider', {}, 'subject-c')
    const answer = (cookie: string, path = 'sign-in', told = query) =>
      client(app, cookie)('POST', `/api/${path}/provider-answer`, { query: told })
    // Somebody else's browser: nobody is signed in as whoever sends them a link (RFC 6749, 10.12).
    expect(refusal(await answer(''))).toEqual([401, 'provider-not-asked'])
    expect(refusal(await answer(kept, 'join'))).toEqual([401, 'provider-not-asked'])
    const other = await there('sign-in/provider', {}, 'subject-c')
    expect(refusal(await answer(other.kept))).toEqual([401, 'provider-answer-wrong'])
    const first = await answer(kept)
    expect(first.status).toBe(200)
    expect(cookiesOf(first)).toMatch(/mast-sign-on=(;|$)/)
    expect(refusal(await answer(kept))).toEqual([401, 'provider-answer-wrong'])
  })

  it('is connected by who has a password, and by them alone', async () => {
    const { name, id, token } = await invited()
    await client(app)('POST', '/api/join', { token, password: PASSWORD })
    const signed = await client(app)('POST', '/api/sign-in', { name, password: PASSWORD })
    const cookie = cookiesOf(signed)
    const browser = client(app, cookie)
    expect(refusal(await browser('POST', '/api/me/identity', { password: 'another' }))).toEqual([
      403,
      'password-wrong',
    ])
    const { kept, query } = await there('me/identity', { password: PASSWORD }, 'subject-d', cookie)
    const strange = await signedIn(app, 'keeper')
    const flow = kept.replace(/mast=[^;]+;?/, '')
    const stolen = await strange('POST', '/api/me/identity/provider-answer', { query }, { cookie: flow })
    expect(stolen.status).toBe(401)
    expect((await client(app, kept)('POST', '/api/me/identity/provider-answer', { query })).status).toBe(200)
    expect((await browser<OwnIdentity>('GET', '/api/me/identity')).body.since).not.toBeNull()
    expect((await signInAs('subject-d')).body.name).toBe(name)
    // One account at the provider is one person here.
    const second = await invited()
    const taken = await through('join', { token: second.token }, 'subject-d')
    expect(refusal(taken)).toEqual([409, 'identity-taken'])
    const whom = await client(app)('POST', '/api/join/whom', { token: second.token })
    expect(whom.status, 'the link still works').toBe(200)
    expect((await browser('POST', '/api/me/identity/remove', { password: PASSWORD })).status).toBe(200)
    expect(refusal(await signInAs('subject-d'))).toEqual([401, 'identity-unknown'])
    expect(await lineOf(id)).toMatchObject({ hasIdentity: false, state: 'active' })
  })

  it('opens no account by a link that is for a new password', async () => {
    const { id } = await joined('subject-e')
    const link = await administrator<OneTimeLink>('POST', `/api/people/${id}/link`, {})
    const token = link.body.path.split('#')[1]
    expect(refusal(await client(app)('POST', '/api/join/provider', { token }))).toEqual([
      409,
      'link-needs-password',
    ])
  })

  it('asks who has no password to have signed in just now', async () => {
    const { browser } = await joined('subject-f')
    const wanted = { name: 'Program', mayWrite: false, days: 7, password: '' }
    expect((await browser('POST', '/api/me/tokens', wanted)).status).toBe(200)
    const database = postgres(app.databaseUrl, { max: 1 })
    await database`update sessions set created_at = created_at - interval '11 minutes'`
    await database.end()
    expect(refusal(await browser('POST', '/api/me/tokens', wanted))).toEqual([403, 'sign-in-again'])
    const change = { current: '', wanted: PASSWORD }
    expect(refusal(await browser('POST', '/api/me/password', change))).toEqual([403, 'sign-in-again'])
    const fresh = client(app, cookiesOf(await signInAs('subject-f')))
    expect(refusal(await fresh('POST', '/api/me/identity/remove', { password: '' }))).toEqual([
      409,
      'password-needed',
    ])
    expect((await fresh('POST', '/api/me/password', change)).status).toBe(200)
    expect(refusal(await fresh('POST', '/api/me/tokens', wanted))).toEqual([403, 'password-wrong'])
  })

  it('is taken from somebody by an administrator, who can give them a new link', async () => {
    const { id, browser } = await joined('subject-g')
    expect((await administrator('POST', `/api/people/${id}/clear-factors`, {})).status).toBe(200)
    expect((await browser('GET', '/api/me')).status).toBe(401)
    expect(await lineOf(id)).toMatchObject({ hasIdentity: false, state: 'invited' })
    const link = await administrator<OneTimeLink>('POST', `/api/people/${id}/link`, {})
    const token = link.body.path.split('#')[1] ?? ''
    expect((await through('join', { token }, 'subject-h')).status).toBe(200)
  })

  it('counts as a second factor for who has no password, and for nobody else', async () => {
    const { browser } = await joined('subject-j')
    expect((await browser<Me>('GET', '/api/me')).body).toMatchObject({ hasPassword: false, hasFactor: true })
    await browser('POST', '/api/me/password', { current: '', wanted: PASSWORD })
    expect((await browser<Me>('GET', '/api/me')).body).toMatchObject({ hasPassword: true, hasFactor: false })
  })

  it('counts who signs in by it among those who administer', async () => {
    const { id } = await joined('subject-i')
    await administrator('PATCH', `/api/people/${id}`, { role: 'administrator' })
    const other = client(app, cookiesOf(await signInAs('subject-i')))
    const own = (await other<PersonLine[]>('GET', '/api/people')).body.find(
      ({ name }) => name === personOf('administrator').name,
    )
    expect((await other('PATCH', `/api/people/${own?.id}`, { role: 'keeper' })).status).toBe(403)
    expect((await other('PATCH', `/api/people/${id}`, { role: 'keeper' })).status).toBe(200)
    expect(refusal(await administrator('PATCH', `/api/people/${own?.id}`, { role: 'keeper' }))).toEqual([
      409,
      'last-administrator',
    ])
  })
})

describe('where the provider is away, or there is none', () => {
  it('says so, and lets people in by their passwords', async () => {
    const [port, nobody] = [await freePort(), await freePort()]
    const alone = await startApp({
      port,
      env: providerEnv(`http://127.0.0.1:${nobody}`, `http://127.0.0.1:${port}`),
    })
    const late = client(alone)
    expect(refusal(await late('POST', '/api/sign-in/provider', {}))).toEqual([503, 'provider-silent'])
    const { name, password } = personOf('planner')
    expect((await (await signedInAs(alone, name, password))('GET', '/api/me')).status).toBe(200)
    const back = await startStandInProvider(nobody)
    expect((await late('POST', '/api/sign-in/provider', {})).status, 'once it is back').toBe(200)
    await back.stop()
    await alone.stop()
  })
  it('offers nothing', async () => {
    const none = await startApp()
    expect((await client(none)('GET', '/api/sign-in/ways')).body).toEqual({ provider: null })
    expect(refusal(await client(none)('POST', '/api/sign-in/provider', {}))).toEqual([404, 'no-provider'])
    await none.stop()
  })
})
