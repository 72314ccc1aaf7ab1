import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { LinkFor, OneTimeLink, PersonLine, SessionLine } from '#contracts/accounts'
import type { Me } from '#contracts/api'
import { guessesOf } from '#contracts/guesses'
import type { Role } from '#contracts/roles'
import {
  client,
  codesOf,
  cookiesOf,
  eventually,
  newsOf,
  personOf,
  signedIn,
  signedInAs,
  startApp,
  type App,
  type Client,
  type Reply,
} from './harness'

let app: App
let administrator: Client
let nobody: Client
beforeAll(async () => {
  app = await startApp()
  administrator = await signedIn(app, 'administrator')
  nobody = client(app)
})
afterAll(async () => {
  await app.stop()
})

const PASSWORD = 'walrus-teapot-gravel-noon'
const OTHER = 'lantern-biscuit-gable-moss'
const tokenOf = ({ path }: OneTimeLink) => path.split('#')[1] ?? ''
let count = 0

/** Somebody new, who has not chosen a password yet. */
async function invited(role: Role = 'rigger') {
  const name = `Person ${(count += 1)}`
  const reply = await administrator<{ person: PersonLine; link: OneTimeLink }>('POST', '/api/people', {
    name,
    role,
  })
  expect(reply.status, reply.text).toBe(200)
  return { name, id: reply.body.person.id, token: tokenOf(reply.body.link) }
}
const joined = (token: string, password: string) => nobody<Me>('POST', '/api/join', { token, password })

/** Somebody new, who can sign in. */
async function member(role: Role = 'rigger') {
  const person = await invited(role)
  expect((await joined(person.token, PASSWORD)).status).toBe(200)
  return { ...person, browser: await signedInAs(app, person.name, PASSWORD) }
}
const answers = async (who: Client) => (await who('GET', '/api/me')).status
const refusal = (reply: Reply) => [reply.status, codesOf(reply)]

describe('somebody who is added', () => {
  it('chooses a password by the link, is signed in by that, and signs in with it from then on', async () => {
    const { name, token } = await invited('planner')
    expect((await nobody<LinkFor>('POST', '/api/join/whom', { token })).body).toEqual({
      kind: 'invite',
      name,
    })
    const reply = await joined(token, PASSWORD)
    const me = {
      name,
      organisation: 'Gullhaven Trust',
      role: 'planner',
      siteRoles: {},
      isOperator: false,
      hasPassword: true,
      hasFactor: false,
      needsFactor: false,
    }
    expect(reply.body).toEqual(me)
    expect((await client(app, cookiesOf(reply))<Me>('GET', '/api/me')).body).toEqual(me)
    expect(await answers(await signedInAs(app, name.toUpperCase(), PASSWORD))).toBe(200)
  })
  it('cannot sign in before, whatever is typed', async () => {
    const { name } = await invited()
    expect(refusal(await nobody('POST', '/api/sign-in', { name, password: PASSWORD }))).toEqual([
      401,
      ['sign-in-wrong'],
    ])
  })
  it('uses a link once; of two who use it together one is told no', async () => {
    const { token } = await invited()
    const both = await Promise.all([joined(token, PASSWORD), joined(token, OTHER)])
    expect(both.map(({ status }) => status).sort()).toEqual([200, 404])
    expect(refusal(await joined(token, OTHER))).toEqual([404, ['no-such-link']])
    expect(refusal(await nobody('POST', '/api/join/whom', { token }))).toEqual([404, ['no-such-link']])
  })
  it('is refused a password that is short, or that is easy to guess, and has the link still', async () => {
    const { name, token } = await invited()
    expect(codesOf(await joined(token, 'xK9#q2'))).toEqual(['password-short'])
    for (const weak of ['password1234', 'qwertyuiop12', `${name} 2026`, 'Able Mast 2026'])
      expect([weak, codesOf(await joined(token, weak))]).toEqual([weak, ['password-weak']])
    expect((await joined(token, PASSWORD)).status).toBe(200)
  })
  it('gets a new link that makes the older one void', async () => {
    const { id, token } = await invited()
    const link = await administrator<OneTimeLink>('POST', `/api/people/${id}/link`, {})
    expect(codesOf(await joined(token, PASSWORD))).toEqual(['no-such-link'])
    expect((await joined(tokenOf(link.body), PASSWORD)).status).toBe(200)
  })
  it('has a name that nobody else has, in whatever capitals', async () => {
    const { name } = await invited()
    for (const same of [name, name.toUpperCase()]) {
      const reply = await administrator('POST', '/api/people', { name: same, role: 'keeper' })
      expect(refusal(reply)).toEqual([409, ['name-in-use']])
    }
    expect((await administrator('POST', '/api/people', { name: ' x', role: 'keeper' })).status).toBe(400)
  })
  it('is no first administrator by a link of their own, nor by one that was made up', async () => {
    const { token } = await invited('keeper')
    for (const one of [token, 'made-up'])
      expect(
        codesOf(
          await nobody('POST', '/api/join/first', {
            token: one,
            name: 'Me',
            organisation: 'Mine',
            password: PASSWORD,
          }),
        ),
      ).toEqual(['no-such-link'])
    expect((await joined(token, PASSWORD)).body.role).toBe('keeper')
  })
})

describe('a role', () => {
  it('that changes ends what is open, and holds from the next sign-in on', async () => {
    const { id, name, browser } = await member('planner')
    expect((await browser('POST', '/api/sites', { text: '{}' })).status).toBe(400)
    await administrator('PATCH', `/api/people/${id}`, { role: 'keeper' })
    expect(await answers(browser)).toBe(401)
    const again = await signedInAs(app, name, PASSWORD)
    expect(codesOf(await again('POST', '/api/sites', { text: '{}' }))).toEqual(['other-role'])
  })
  it('of the only administrator who can sign in stays, as they do', async () => {
    const people = (await administrator<PersonLine[]>('GET', '/api/people')).body
    const id = people.find(({ role }) => role === 'administrator')?.id ?? 0
    // Who was invited but never came cannot administer anything.
    await invited('administrator')
    for (const reply of [
      await administrator('PATCH', `/api/people/${id}`, { role: 'planner' }),
      await administrator('PATCH', `/api/people/${id}`, { isDisabled: true }),
      await administrator('DELETE', `/api/people/${id}`),
    ])
      expect(refusal(reply)).toEqual([409, ['last-administrator']])
    expect(await answers(administrator)).toBe(200)
  })
})

describe('somebody who is disabled', () => {
  it('is signed out at once, streams and all, cannot sign in, and can again once enabled', async () => {
    const { id, name, browser } = await member()
    const stream = await news(name)
    await administrator('PATCH', `/api/people/${id}`, { isDisabled: true })
    expect(await answers(browser)).toBe(401)
    await stream.ended
    expect((await nobody('POST', '/api/sign-in', { name, password: PASSWORD })).status).toBe(401)
    expect(codesOf(await administrator('POST', `/api/people/${id}/link`, {}))).toEqual(['person-disabled'])
    await administrator('PATCH', `/api/people/${id}`, { isDisabled: false })
    expect(await answers(await signedInAs(app, name, PASSWORD))).toBe(200)
  })
  it('cannot come in by a link that was made before', async () => {
    const { id, token } = await invited()
    await administrator('PATCH', `/api/people/${id}`, { isDisabled: true })
    expect(codesOf(await joined(token, PASSWORD))).toEqual(['no-such-link'])
  })
  it('or removed is gone, and the name is free', async () => {
    const { id, name, browser } = await member()
    expect((await administrator('DELETE', `/api/people/${id}`)).status).toBe(200)
    expect(await answers(browser)).toBe(401)
    expect(codesOf(await administrator('DELETE', `/api/people/${id}`))).toEqual(['no-such-person'])
    expect((await administrator('POST', '/api/people', { name, role: 'keeper' })).status).toBe(200)
  })
})

async function news(name: string) {
  const signed = await nobody('POST', '/api/sign-in', { name, password: PASSWORD })
  return newsOf(app, 'gullhaven', cookiesOf(signed))
}

describe('a password', () => {
  it('is changed by who knows the one before, and ends one’s other sessions', async () => {
    const { name, browser } = await member()
    const elsewhere = await signedInAs(app, name, PASSWORD)
    const stream = await news(name)
    const change = (current: string, wanted: string) =>
      browser('POST', '/api/me/password', { current, wanted })
    expect(refusal(await change('not it at all', OTHER))).toEqual([403, ['password-wrong']])
    expect(codesOf(await change(PASSWORD, 'short'))).toEqual(['password-short'])
    expect((await change(PASSWORD, OTHER)).status).toBe(200)
    await stream.ended
    expect([await answers(browser), await answers(elsewhere)]).toEqual([200, 401])
    expect((await nobody('POST', '/api/sign-in', { name, password: PASSWORD })).status).toBe(401)
    expect(await answers(await signedInAs(app, name, OTHER))).toBe(200)
  })
  it('is not found out by whoever sits at an open session', async () => {
    const { browser } = await member()
    const guess = () => browser('POST', '/api/me/password', { current: 'a guess', wanted: OTHER })
    const replies = await Promise.all(Array.from({ length: 12 }, guess))
    expect(replies.map(({ status }) => status).sort()).toEqual([...Array<number>(10).fill(403), 429, 429])
    const right = await browser('POST', '/api/me/password', { current: PASSWORD, wanted: OTHER })
    expect(codesOf(right)).toEqual(['too-many-tries'])
  })
  it('that was lost is chosen anew by a link, until when the old one holds', async () => {
    const { id, name, browser } = await member()
    const link = (await administrator<OneTimeLink>('POST', `/api/people/${id}/link`, {})).body
    expect(await answers(browser)).toBe(200)
    expect((await nobody('POST', '/api/join/whom', { token: tokenOf(link) })).body).toEqual({
      kind: 'reset',
      name,
    })
    expect((await joined(tokenOf(link), OTHER)).status).toBe(200)
    expect(await answers(browser)).toBe(401)
    expect(await answers(await signedInAs(app, name, OTHER))).toBe(200)
  })
})

describe('sessions', () => {
  const listed = async (who: Client) => (await who<SessionLine[]>('GET', '/api/me/sessions')).body

  it('are listed to whose they are, and each can be ended', async () => {
    const { name, browser } = await member()
    const headers = { 'user-agent': 'Elsewhere/1.0' }
    const other = await nobody('POST', '/api/sign-in', { name, password: PASSWORD }, headers)
    const elsewhere = client(app, cookiesOf(other))
    const lines = await listed(browser)
    // One was opened by the link.
    expect(lines.map(({ isThis }) => isThis).sort()).toEqual([false, false, true])
    const line = lines.find(({ device }) => device === 'Elsewhere/1.0')
    expect(line?.address).toBe('127.0.0.1')
    expect((await browser('DELETE', `/api/me/sessions/${line?.id}`)).status).toBe(200)
    expect([await answers(browser), await answers(elsewhere)]).toEqual([200, 401])
    expect((await browser('DELETE', '/api/me/sessions')).body).toEqual({ count: 1 })
    expect((await listed(browser)).map(({ isThis }) => isThis)).toEqual([true])
  })
  it('of somebody else are neither seen nor ended', async () => {
    const [one, other] = [await member(), await member()]
    const [line] = await listed(one.browser)
    expect(codesOf(await other.browser('DELETE', `/api/me/sessions/${line?.id}`))).toEqual([
      'no-such-session',
    ])
    expect(codesOf(await other.browser('DELETE', '/api/me/sessions/x'))).toEqual(['no-such-session'])
    expect(await answers(one.browser)).toBe(200)
  })
})

describe('a session', () => {
  it('ends by itself after twelve hours, used or not', async () => {
    const { browser, name } = await member()
    const database = postgres(app.databaseUrl, { max: 1 })
    try {
      const [row] = await database`
        select extract(epoch from s.expires_at - s.created_at)::int as seconds
        from sessions s join people p on p.id = s.person_id where p.name = ${name} limit 1`
      expect(row?.['seconds']).toBe(12 * 3600)
      await database`
        update sessions set expires_at = now() - interval '1 second'
        where person_id = (select id from people where name = ${name})`
      expect(await answers(browser)).toBe(401)
    } finally {
      await database.end()
    }
  })
})

describe('a password that takes long to judge', () => {
  it('holds up nobody: what comes after 64 characters is not judged', () => {
    // Words that look like many others, one after the other: 2.7 s for 200 characters where all are judged.
    const slow = 'p4$$w0rd'.repeat(25)
    expect(guessesOf(slow, [])).toBe(guessesOf(slow.slice(0, 64), []))
  })
})

describe('while somebody guesses a password', () => {
  it('its owner comes in from a device that is known, and nobody else from there', async () => {
    const { name } = await member()
    const attempt = (password: string, headers: Record<string, string> = {}) =>
      nobody('POST', '/api/sign-in', { name, password }, headers)
    const cookie = cookiesOf(await attempt(PASSWORD))
    await Promise.all(Array.from({ length: 12 }, () => attempt('a guess')))
    expect((await attempt(PASSWORD)).status).toBe(429)
    expect((await attempt(PASSWORD, { cookie })).status).toBe(200)
    expect((await attempt('a guess', { cookie })).status).toBe(401)
    // It does not let whoever has it in his hands guess without end either.
    const tried = await Promise.all(Array.from({ length: 25 }, () => attempt('a guess', { cookie })))
    expect(tried.filter(({ status }) => status === 429).length).toBeGreaterThanOrEqual(5)
    // A device is known for whoever signed in on it, and for nobody else.
    const another = await member()
    const theirs = cookiesOf(await nobody('POST', '/api/sign-in', { name: another.name, password: PASSWORD }))
    await Promise.all(Array.from({ length: 12 }, () => attempt('a guess')))
    expect((await attempt(PASSWORD, { cookie: theirs })).status).toBe(429)
  })
})

describe('what an administrator sees', () => {
  it('of everybody: role, state and when they were seen', async () => {
    const { id } = await member('keeper')
    const person = async () =>
      (await administrator<PersonLine[]>('GET', '/api/people')).body.find((line) => line.id === id)
    const seen = await eventually(person, (line) => line?.seenAt != null)
    expect(seen).toMatchObject({ role: 'keeper', state: 'active' })
    expect(JSON.stringify(seen)).not.toMatch(/argon2|hash/i)
    expect(personOf('administrator').name).toBe('Administrator')
  })
})
