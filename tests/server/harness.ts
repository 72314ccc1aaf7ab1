import { randomUUID } from 'node:crypto'
import postgres from 'postgres'
import Ajv from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import { inject } from 'vitest'
import type { SiteLine } from '#contracts/api'
import { routeKeyFor } from '#server/access'
import { openApi } from '#server/openapi'
import people from '../../server/demo/people.json'
import { freePort, serverUrlOf } from '../../tools/postgres.mjs'
import { startServer } from '../../tools/server.mjs'

// The built server as a process of its own, asked over HTTP as a browser or a device would.

export type Role = 'administrator' | 'planner' | 'rigger' | 'keeper'
export const SERVER_KEY = 'a-password-for-tests-of-32-letters'

export interface App {
  readonly url: string
  readonly databaseUrl: string
  stop(signal?: 'SIGTERM' | 'SIGKILL'): Promise<number>
}

export async function freshDatabase(): Promise<string> {
  const admin = postgres(inject('databaseUrl'), { max: 1 })
  const name = `t${randomUUID().replaceAll('-', '')}`
  await admin.unsafe(`create database ${name}`)
  await admin.end()
  const url = new URL(inject('databaseUrl'))
  url.pathname = `/${name}`
  return url.href
}

/**
 * @param options `serverUrl` where the server asks as another user than its own; `serverKey` a line each, newest
 *   first
 */
export async function startApp(
  options: {
    databaseUrl?: string
    serverUrl?: string
    serverKey?: string
    port?: number
    env?: Record<string, string>
  } = {},
): Promise<App> {
  const databaseUrl = options.databaseUrl ?? (await freshDatabase())
  const port = options.port ?? (await freePort())
  const env = { MAST_DEMO: '1', MAST_LAB_SPEED: '1000', MAST_SILENCE_LIMIT_MS: '700', ...options.env }
  const database = { url: databaseUrl, serverUrl: options.serverUrl ?? serverUrlOf(databaseUrl) }
  const server = startServer({
    host: '127.0.0.1',
    port,
    database,
    serverKey: options.serverKey ?? SERVER_KEY,
    env,
  })
  await server.ready
  return {
    url: `http://127.0.0.1:${port}`,
    databaseUrl,
    async stop(signal = 'SIGTERM') {
      server.child.kill(signal)
      return server.ended
    },
  }
}

export interface Reply<T = unknown> {
  readonly status: number
  readonly headers: Headers
  readonly text: string
  readonly body: T
}

export type Client = <T = Record<string, unknown>>(
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>,
) => Promise<Reply<T>>

const ajv = addFormats(new Ajv({ strict: false }))
ajv.addSchema(openApi, 'openapi')
/** Every answer that programs may have is held against its description, whichever test asks. */
function holdAgainstDescription(method: string, path: string, body: unknown): void {
  const key = routeKeyFor(method, path.split('?')[0] ?? '')
  const called = key?.split(' ')[1]?.replaceAll(/:(\w+)/g, '{$1}') ?? ''
  const answer = openApi.paths[called]?.[method.toLowerCase()] as
    { responses: { 200: { content: object } } } | undefined
  if (!answer || !('application/json' in answer.responses[200].content)) return
  const place = `#/paths/${called.replaceAll('/', '~1')}/${method.toLowerCase()}/responses/200/content`
  const isSo = ajv.getSchema(`openapi${encodeURI(`${place}/application~1json/schema`)}`)
  if (!isSo) throw new Error(`no description: ${key}`)
  if (!isSo(body)) throw new Error(`${key} is described otherwise: ${ajv.errorsText(isSo.errors)}`)
}

/** Somebody's browser: same origin, with the cookie it was given. */
export function client(app: App, cookie = ''): Client {
  return async <T>(method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
    const json = typeof body === 'string' ? body : JSON.stringify(body)
    const text = body === undefined ? undefined : json
    const response = await fetch(app.url + path, {
      method,
      headers: {
        origin: app.url,
        cookie: cookie,
        ...(text === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(text === undefined ? {} : { body: text }),
    })
    const read = await response.text()
    let parsed: unknown = null
    try {
      parsed = JSON.parse(read)
    } catch {
      // Not JSON: a page, a CSV or nothing.
    }
    if (response.status === 200 && parsed !== null) holdAgainstDescription(method, path, parsed)
    return { status: response.status, headers: response.headers, text: read, body: parsed as T }
  }
}

export const personOf = (role: Role) => people.find((p) => p.role === role) as (typeof people)[number]

/** The cookies that an answer gives, as a browser sends them back. */
export const cookiesOf = (reply: Reply): string =>
  reply.headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0])
    .join('; ')

/** Somebody's browser, signed in. */
export async function signedInAs(app: App, name: string, password: string): Promise<Client> {
  const reply = await client(app)('POST', '/api/sign-in', { name, password })
  if (reply.status !== 200) throw new Error(`sign-in: ${reply.text}`)
  return client(app, cookiesOf(reply))
}

export const signedIn = (app: App, role: Role): Promise<Client> =>
  signedInAs(app, personOf(role).name, personOf(role).password)

/** The news of a site as a browser hears them; `ended` once the server has closed the stream. */
export async function newsOf(
  app: App,
  site: string,
  cookie: string,
): Promise<{ readonly ended: Promise<void> }> {
  const response = await fetch(`${app.url}/api/sites/${site}/news`, { headers: { cookie } })
  if (response.status !== 200) throw new Error(`news: ${response.status}`)
  const reader = response.body?.getReader()
  await reader?.read()
  const ended = (async () => {
    while (!(await reader?.read())?.done) {
      // Pulses until it ends.
    }
  })()
  return { ended }
}

/** Waits until something is so; fails with the last thing seen. */
export async function eventually<T>(
  look: () => Promise<T>,
  good: (seen: T) => boolean,
  withinMs = 15_000,
): Promise<T> {
  const end = Date.now() + withinMs
  for (;;) {
    const seen = await look()
    if (good(seen)) return seen
    if (Date.now() > end) throw new Error(`never so; last seen: ${JSON.stringify(seen).slice(0, 600)}`)
    await new Promise((done) => setTimeout(done, 40))
  }
}

export const codesOf = (reply: Reply): string[] =>
  ((reply.body as { problems?: { code: string }[] } | null)?.problems ?? []).map((p) => p.code)

/** Sites that somebody is told of, by slug. */
export const slugsOf = async (who: Client): Promise<string[]> =>
  (await who<SiteLine[]>('GET', '/api/sites')).body.map(({ slug }) => slug)
