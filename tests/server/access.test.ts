import { readdirSync } from 'node:fs'
import { request } from 'node:http'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ROLES } from '#contracts/roles'
import { ACCESS } from '#server/access'
import { client, codesOf, personOf, signedIn, startApp, type App, type Client, type Role } from './harness'

let app: App
const clients = {} as Record<Role | 'nobody', Client>
beforeAll(async () => {
  app = await startApp()
  clients.nobody = client(app)
  for (const role of ROLES) clients[role] = await signedIn(app, role)
})
afterAll(async () => {
  await app.stop()
})

const ROUTES = Object.entries(ACCESS).map(([key, access]) => {
  const [method = '', pattern = ''] = key.split(' ')
  const path = pattern
    .replace(':site', 'no-such-site')
    .replace(':revision', '1')
    .replace(':serial', 'GH-0000-0000')
    .replace(':file', 'site.json')
  return { key, method, path, access }
})
const body = (method: string) => (method === 'GET' || method === 'DELETE' ? undefined : {})

describe('every route', () => {
  it('that has a handler is listed, and the other way round', () => {
    const files = readdirSync('server/api', { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile())
      .map((entry) => `${entry.parentPath}/${entry.name}`.replace(/^server/, ''))
    const handlers = files.map((file) => {
      const [, path = '', method = ''] = /^(.*?)\.(get|post|patch|delete)\.ts$/.exec(file) ?? []
      return `${method.toUpperCase()} ${path.replace(/\/index$/, '').replaceAll(/\[(\w+)\]/g, ':$1')}`
    })
    expect([...handlers].sort()).toEqual(Object.keys(ACCESS).sort())
  })

  it.each(ROUTES.filter((r) => Array.isArray(r.access)))('$key needs a session', async ({ method, path }) => {
    const reply = await clients.nobody(method, path, body(method))
    expect([reply.status, codesOf(reply)]).toEqual([401, ['sign-in-needed']])
  })

  it.each(
    ROUTES.flatMap((route) =>
      Array.isArray(route.access)
        ? ROLES.map((role) => ({
            ...route,
            role,
            may: (route.access as readonly string[]).includes(role),
          }))
        : [],
    ).filter((r) => r.key !== 'POST /api/sign-out'),
  )('$key as $role: $may', async ({ method, path, role, may }) => {
    const reply = await clients[role](method, path, body(method))
    if (may) expect([401, 403, 500]).not.toContain(reply.status)
    else expect([reply.status, codesOf(reply)]).toEqual([403, ['other-role']])
  })

  it('that is not listed is refused, whoever asks', async () => {
    for (const [method, path] of [
      ['GET', '/api/persons'],
      // The session's own library would answer from the cookie, which knows no revocation.
      ['GET', '/api/_auth/session'],
      ['PUT', '/api/sites'],
      ['GET', '/restconf/data'],
      ['DELETE', '/api/sites/gullhaven/plan'],
    ] as const) {
      expect(codesOf(await clients.planner(method, path, body(method)))).toEqual(['no-such-route'])
    }
  })
})

describe('writes', () => {
  it.each([
    [{ 'sec-fetch-site': 'cross-site' }],
    [{ 'sec-fetch-site': 'same-site' }],
    [{ origin: 'https://elsewhere.example' }],
    [{ origin: 'null' }],
  ])('from elsewhere are refused: %o', async (headers) => {
    const reply = await clients.planner(
      'POST',
      '/api/sites',
      { text: '{}' },
      headers as Record<string, string>,
    )
    expect([reply.status, codesOf(reply)]).toEqual([403, ['other-origin']])
  })
  it.each([
    ['of another scheme', (host: string) => `https://${host}`],
    ['without a scheme', (host: string) => host],
  ])('with an origin %s are refused on every route', async (_, originOf) => {
    const origin = originOf(new URL(app.url).host)
    for (const { key, method, path } of ROUTES.filter((r) => r.method !== 'GET')) {
      const reply = await clients.administrator(method, path, body(method), { origin })
      expect([key, reply.status, codesOf(reply)]).toEqual([key, 403, ['other-origin']])
    }
  })
  it('that no browser says the origin of are refused', async () => {
    const { status, problems } = await askedAs(new URL(app.url).host, { method: 'POST' })
    expect([status, problems]).toEqual([403, ['other-origin']])
  })
  it('from our own pages are not', async () => {
    const reply = await clients.planner(
      'POST',
      '/api/sites',
      { text: '{}' },
      { 'sec-fetch-site': 'same-origin' },
    )
    expect(codesOf(reply)).toEqual(['not-a-plan'])
  })
})

/** A question with headers that a browser, or `fetch`, would not let one choose. */
function askedAs(
  host: string,
  { method = 'GET', to = app }: { method?: string; to?: App } = {},
): Promise<{ status: number; problems: string[] }> {
  return new Promise((resolve, reject) => {
    const asked = request(`${to.url}/api/sign-in`, { method, headers: { host } }, async (reply) => {
      let text = ''
      for await (const part of reply) text += String(part)
      const { problems = [] } = JSON.parse(text) as { problems?: { code: string }[] }
      resolve({ status: reply.statusCode ?? 0, problems: problems.map(({ code }) => code) })
    })
    asked.on('error', reject)
    asked.end()
  })
}

describe('a name that is not ours', () => {
  it('is refused: somebody may have made it point here', async () => {
    const { status, problems } = await askedAs('evil.example', { method: 'POST' })
    expect([status, problems]).toEqual([421, ['other-host']])
  })
  it('is one of ours where the installation says so, and an address always is', async () => {
    const env = { MAST_PUBLIC_URL: 'https://mast.example', NUXT_SESSION_COOKIE_SECURE: 'true' }
    const behind = await startApp({ env })
    try {
      const { name, password } = personOf('keeper')
      const asked = (headers: Record<string, string>) =>
        client(behind)('POST', '/api/sign-in', { name, password }, headers)
      expect((await askedAs('mast.example', { method: 'POST', to: behind })).problems).toEqual([
        'other-origin',
      ])
      expect((await askedAs('mast.example.evil.example', { method: 'POST', to: behind })).status).toBe(421)
      const signed = await asked({})
      expect(signed.status).toBe(200)
      // Over TLS alone, as it is said to be reached, and from now on.
      expect(signed.headers.getSetCookie().every((cookie) => /; Secure/i.test(cookie))).toBe(true)
      expect(signed.headers.get('strict-transport-security')).toMatch(/^max-age=\d{8}/)
    } finally {
      await behind.stop()
    }
  })
})

describe('signing in', () => {
  const attempt = (name: string, password: string) =>
    clients.nobody('POST', '/api/sign-in', { name, password })

  it('gives a sealed cookie that scripts and other sites cannot use', async () => {
    const { name, password } = personOf('keeper')
    const cookie = (await attempt(name, password)).headers.get('set-cookie') ?? ''
    expect(cookie).toMatch(/; HttpOnly/i)
    expect(cookie).toMatch(/; SameSite=Strict/i)
    expect(cookie).not.toContain(name)
  })
  it('answers a wrong password and an unknown name alike, and slowly', async () => {
    const began = performance.now()
    const wrong = await attempt('Keeper', 'wrong')
    expect(performance.now() - began).toBeGreaterThan(250)
    const unknown = await attempt('Nobody at all', 'wrong')
    expect([wrong.status, wrong.text]).toEqual([unknown.status, unknown.text])
    expect([wrong.status, codesOf(wrong)]).toEqual([401, ['sign-in-wrong']])
  })
  it('counts failures and refuses further tries, even right ones, without telling who exists', async () => {
    const name = 'Counted'
    const replies = await Promise.all(Array.from({ length: 12 }, () => attempt(name, 'wrong')))
    expect(replies.map((r) => r.status).sort()).toEqual([...Array<number>(10).fill(401), 429, 429])
    expect(codesOf(await attempt(name, 'wrong'))).toEqual(['too-many-tries'])
    expect((await attempt(personOf('keeper').name, personOf('keeper').password)).status).toBe(200)
  })
  it('ends with signing out', async () => {
    const { name, password } = personOf('rigger')
    const cookie = (await attempt(name, password)).headers.get('set-cookie')?.split(';')[0] ?? ''
    const reply = await client(app, cookie)('POST', '/api/sign-out', {})
    expect(reply.headers.get('set-cookie')).toMatch(/mast=;|Max-Age=0/)
    // What somebody copied before is worth nothing any more.
    expect((await client(app, cookie)('GET', '/api/me')).status).toBe(401)
  })
  it('cannot be done with a cookie that was made up', async () => {
    expect((await client(app, 'mast=Fe26.2**made*up')('GET', '/api/sites')).status).toBe(401)
  })
})

describe('pages', () => {
  it('allow no script but their own, none from text, and nothing from elsewhere', async () => {
    const page = await clients.nobody('GET', '/sign-in')
    const policy = page.headers.get('content-security-policy') ?? ''
    expect(policy).toContain("default-src 'none'")
    expect(policy).not.toMatch(/(?<!wasm-)unsafe-eval|https?:|\*/)
    expect(policy).toMatch(/; style-src 'self' 'nonce-[^']+';/)
    expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/)
    const nonce = /'nonce-([^']+)'/.exec(policy)?.[1] ?? 'none'
    expect([...page.text.matchAll(/<script/g)].length).toBe(
      [...page.text.matchAll(new RegExp(`<script nonce="${nonce.replace(/[+/]/g, '\\$&')}"`, 'g'))].length,
    )
    expect(page.headers.get('x-content-type-options')).toBe('nosniff')
    expect((await clients.nobody('GET', '/sign-in')).headers.get('content-security-policy')).not.toBe(policy)
  })
  it('name no other origin', async () => {
    const page = await clients.nobody('GET', '/')
    expect(
      [...page.text.matchAll(/(?:src|href)="([^"]+)"/g)]
        .map((m) => m[1])
        .filter((link) => !link?.startsWith('/')),
    ).toEqual([])
  })
})
