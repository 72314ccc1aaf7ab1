import { Validator } from '@seriousme/openapi-schema-validator'
import { readFileSync } from 'node:fs'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { OneTimeLink, PersonLine } from '#contracts/accounts'
import type { AuditLine } from '#contracts/audit'
import type { PlanAt } from '#contracts/api'
import type { NewToken, TokenLine } from '#contracts/tokens'
import { ACCESS } from '#server/access'
import { BODIES, openApi } from '#server/openapi'
import {
  client,
  codesOf,
  personOf,
  signedIn,
  slugsOf,
  startApp,
  type App,
  type Client,
  type Reply,
} from './harness'

// Programs that ask by tokens, and what they are told of what they may ask.

let app: App
let planner: Client
let administrator: Client
beforeAll(async () => {
  app = await startApp()
  planner = await signedIn(app, 'planner')
  administrator = await signedIn(app, 'administrator')
})
afterAll(async () => {
  await app.stop()
})
const refusal = (reply: Reply) => [reply.status, ...codesOf(reply)]

/** A program: no cookie, no origin. */
const program =
  (token: string): Client =>
  (method, path, body, headers = {}) =>
    client({ ...app })(method, path, body, { origin: '', authorization: `Bearer ${token}`, ...headers })

async function made(
  mayWrite: boolean,
  who = planner,
  password = personOf('planner').password,
): Promise<NewToken> {
  const reply = await who<NewToken>('POST', '/api/me/tokens', {
    name: 'Nightly',
    mayWrite,
    days: 30,
    password,
  })
  expect(reply.status, reply.text).toBe(200)
  return reply.body
}
const change = async (ask: Client, slug: string) => {
  const { revision } = (await planner<PlanAt>('GET', `/api/sites/${slug}/plan`)).body
  const patch = [{ op: 'replace', path: '/site/name', value: `Renamed ${revision}` }]
  return ask('PATCH', `/api/sites/${slug}/plan`, { baseRevision: revision, patch, words: 'by a program' })
}

describe('a token', () => {
  it('asks as whoever made it, without a browser, and is told once', async () => {
    const { token, line } = await made(true)
    const ask = program(token)
    expect(await slugsOf(ask)).toEqual(await slugsOf(planner))
    expect((await change(ask, 'carrow')).status).toBe(200)
    const [revision] = (await planner<{ author: string }[]>('GET', '/api/sites/carrow/revisions')).body
    expect(revision?.author).toBe('Planner')
    const listed = await planner<TokenLine[]>('GET', '/api/me/tokens')
    expect(listed.body.find(({ id }) => id === line.id)).toMatchObject({ name: 'Nightly', mayWrite: true })
    expect(listed.body.find(({ id }) => id === line.id)?.usedAt).not.toBeNull()
    expect(listed.text).not.toContain(token)
    const sql = postgres(app.databaseUrl, { max: 1 })
    expect(JSON.stringify(await sql`select * from api_tokens`)).not.toContain(token)
    await sql.end()
  })
  it('that reads does not write', async () => {
    const ask = program((await made(false)).token)
    expect((await ask('GET', '/api/sites/carrow/plan')).status).toBe(200)
    expect(refusal(await change(ask, 'carrow'))).toEqual([403, 'token-reads'])
  })
  it('is never taken for people, accounts, secrets, or what ends a site', async () => {
    const password = personOf('administrator').password
    const ask = program((await made(true, administrator, password)).token)
    const kept = Object.keys(ACCESS).filter((key) => {
      const [method = '', path = ''] = key.split(' ')
      return (
        path.startsWith('/api/') &&
        ACCESS[key] !== 'open' &&
        (!/^\/api\/(sites|fleet)/.test(path) ||
          (method !== 'GET' && /\/(keys|passphrases|delete|transfer|copy|template|lab)(\/|$)/.test(path)))
      )
    })
    expect(kept.length).toBeGreaterThan(40)
    for (const key of kept) {
      const [method = '', path = ''] = key.split(' ')
      const filled = path.replace(':site', 'carrow').replaceAll(/:\w+/g, '1')
      const reply = await ask(method, filled, method === 'GET' || method === 'DELETE' ? undefined : {})
      expect([key, ...refusal(reply)]).toEqual([key, 403, 'not-by-token'])
    }
  })
  it('is made by the password, and ended by who made it alone', async () => {
    const wrong = { name: 'x', mayWrite: true, days: 1, password: 'another' }
    expect(refusal(await planner('POST', '/api/me/tokens', wrong))).toEqual([403, 'password-wrong'])
    expect(refusal(await planner('POST', '/api/me/tokens', { ...wrong, days: 1000 }))[0]).toBe(400)
    const { token, line } = await made(true)
    expect(refusal(await administrator('DELETE', `/api/me/tokens/${line.id}`))).toEqual([
      404,
      'no-such-token',
    ])
    expect((await planner('DELETE', `/api/me/tokens/${line.id}`)).status).toBe(200)
    expect(refusal(await program(token)('GET', '/api/sites'))).toEqual([401, 'token-unknown'])
  })
  it('holds for its time, and for as long as its person may come in, with what they may by then', async () => {
    const { token, line } = await made(true)
    const sql = postgres(app.databaseUrl, { max: 1 })
    await sql`update api_tokens set expires_at = now() - interval '1 second' where id = ${line.id}`
    await sql.end()
    expect(refusal(await program(token)('GET', '/api/sites'))).toEqual([401, 'token-unknown'])

    const password = 'walrus-teapot-gravel-noon'
    const invited = await administrator<{ person: PersonLine; link: OneTimeLink }>('POST', '/api/people', {
      name: 'Robot keeper',
      role: 'planner',
    })
    const joined = await client(app)('POST', '/api/join', {
      token: invited.body.link.path.split('#')[1],
      password,
    })
    const browser = client(app, joined.headers.getSetCookie()[0]?.split(';')[0])
    const ask = program((await made(true, browser, password)).token)
    expect((await change(ask, 'quayside')).status).toBe(200)
    const person = `/api/people/${invited.body.person.id}`
    await administrator('PATCH', person, { role: 'keeper' })
    expect(refusal(await change(ask, 'quayside'))).toEqual([403, 'other-role'])
    await administrator('PATCH', person, { isDisabled: true })
    expect(refusal(await ask('GET', '/api/sites'))).toEqual([401, 'token-unknown'])
  })
  it('does not open what a cookie opens, and a page of others cannot use the cookie beside it', async () => {
    for (const authorization of ['Bearer mast_', 'Bearer x', 'Basic eDp5', 'Bearer mast_' + 'A'.repeat(43)])
      expect(refusal(await planner('GET', '/api/sites', undefined, { authorization }))).toEqual([
        401,
        'token-unknown',
      ])
    const foreign = { origin: 'https://elsewhere.example' }
    expect(refusal(await planner('POST', '/api/sites', { text: '{}' }, foreign))).toEqual([
      403,
      'other-origin',
    ])
  })
  it('stands in the audit beside what was done by it', async () => {
    const ask = program((await made(true)).token)
    await ask('POST', '/api/sites/carrow/archive', { isArchived: false })
    const [line] = (await administrator<AuditLine[]>('GET', '/api/audit?what=site-unarchived')).body
    expect(line).toMatchObject({ who: 'Planner', site: 'carrow', subject: 'by the token Nightly' })
  })
})

describe('what programs may ask', () => {
  it('is described by OpenAPI 3.1, by its own schema', async () => {
    const told = await client(app)<typeof openApi>('GET', '/api/openapi')
    expect(told.status).toBe(200)
    const { valid, errors } = await new Validator().validate(told.body)
    expect(errors ?? []).toEqual([])
    expect(valid).toBe(true)
    expect((await new Validator().validate({ ...told.body, paths: { plan: 1 } })).valid).toBe(false)
  })
  it('has each body as it is checked: by the schema that its route reads it with', () => {
    for (const [key, name] of Object.entries(BODIES)) {
      const [method = '', path = ''] = key.split(' ')
      const file = path.replace('/api/', '').replaceAll(/:(\w+)/g, '[$1]')
      const candidates = [`${file}.${method.toLowerCase()}.ts`, `${file}/index.${method.toLowerCase()}.ts`]
      const source = candidates
        .map((one) => {
          try {
            return readFileSync(`server/api/${one}`, 'utf8')
          } catch {
            return ''
          }
        })
        .join('')
      expect(source, key).toContain(`readChecked(event, ${name}`)
    }
  })
  it('lists no route that a token is refused on, and every one that takes a body', () => {
    const listed = Object.entries(openApi.paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => `${method.toUpperCase()} ${path.replaceAll(/\{(\w+)\}/g, ':$1')}`),
    )
    expect(listed).toContain('PATCH /api/sites/:site/plan')
    for (const key of listed) expect(ACCESS[key], key).toBeDefined()
    expect(
      listed.filter((key) => /people|keys$|passphrases$|delete|transfer/.test(key) && !key.startsWith('GET')),
    ).toEqual([])
    const withBody = listed.filter((key) => /^(POST|PATCH) /.test(key))
    expect(withBody.filter((key) => !(key in BODIES))).toEqual([])
  })
})
