import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import postgres from 'postgres'
import { describe, expect, it } from 'vitest'
import type { AuditCheck } from '#contracts/audit'
import type { PlanAt, Roster } from '#contracts/api'
import type { OneTimeSecret } from '#contracts/bootstrap'
import {
  client,
  codesOf,
  cookiesOf,
  freshDatabase,
  personOf,
  signedIn,
  startApp,
  type App,
  type Client,
} from './harness'

// Keys that follow one another: what was sealed before still opens, and is sealed anew.

const [FIRST, SECOND, THIRD] = ['first', 'second', 'third'].map(
  (name) => `${name}-key-of-some-32-letters-or-more`,
)
const SITE = '/api/sites/gullhaven'
const secret = 'driftwood kettle nine'

async function within<T>(
  databaseUrl: string,
  keys: readonly (string | undefined)[],
  work: (app: App) => Promise<T>,
) {
  const app = await startApp({ databaseUrl, serverKey: keys.join('\n') })
  try {
    return await work(app)
  } finally {
    await app.stop()
  }
}
const check = async (app: App) =>
  (await (await signedIn(app, 'administrator'))<AuditCheck>('GET', '/api/audit/check')).body
async function sealedIn(databaseUrl: string): Promise<string[]> {
  const sql = postgres(databaseUrl, { max: 1 })
  const rows = await sql<
    { sealed: string }[]
  >`select sealed from tunnel_keys union all select sealed from passphrases
    union all select sealed from authorities union all select sealed from webhooks`
  await sql.end()
  return rows.map(({ sealed }) => sealed)
}
const claimed = async (planner: Client): Promise<string> =>
  (await planner<Roster>('GET', `${SITE}/roster`)).body.rows.find(({ serial }) => serial !== null)?.serial ??
  ''
const marksOf = (sealed: readonly string[]) => new Set(sealed.map((text) => text.split('.')[1]))

describe('a new key', () => {
  it('opens what was sealed before, seals it anew, and ends sessions; the audit goes on', async () => {
    const databaseUrl = await freshDatabase()
    let ssid = ''
    const show = async (planner: Client) => [
      (await planner('POST', `${SITE}/passphrases/show`, { ssid })).text,
      (await planner('POST', `${SITE}/keys/show`, { owner: 'surveyor' })).text,
      // Who signs for devices: they know it by this.
      (await planner<OneTimeSecret>('POST', `${SITE}/claims/${await claimed(planner)}/secret`, {})).body
        .fingerprint,
    ]
    const { before, cookie } = await within(databaseUrl, [FIRST], async (app) => {
      const { name, password } = personOf('planner')
      const reply = await client(app)('POST', '/api/sign-in', { name, password })
      const planner = client(app, cookiesOf(reply))
      const { plan } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
      ssid = plan.ssids.find(({ settings }) => settings.security !== 'open')?.id ?? ''
      await planner('POST', `${SITE}/passphrases`, { ssid, passphrase: secret })
      const made = await planner<{ publicKey: string }>('POST', `${SITE}/keys`, { owner: 'surveyor' })
      await planner('PATCH', `${SITE}/plan`, {
        baseRevision: 1,
        patch: [{ op: 'replace', path: '/tunnels/0/peers/2/publicKey', value: made.body.publicKey }],
        words: 'key',
      })
      expect(await check(app)).toMatchObject({ brokenAt: null })
      const administrator = await signedIn(app, 'administrator')
      await administrator('POST', '/api/webhooks', {
        url: 'https://tickets.example/',
        events: ['plan.changed'],
      })
      return { before: await show(planner), cookie: cookiesOf(reply) }
    })
    expect(before[0]).toContain(secret)
    expect(before[1]).toContain('PrivateKey')
    expect(before[2]).toMatch(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/)
    const first = marksOf(await sealedIn(databaseUrl))
    expect(first.size).toBe(1)

    await within(databaseUrl, [SECOND, FIRST], async (app) => {
      expect((await client(app, cookie)('GET', '/api/me')).status).toBe(401)
      expect(await show(await signedIn(app, 'planner'))).toEqual(before)
      expect(await check(app)).toMatchObject({ brokenAt: null })
    })
    const second = marksOf(await sealedIn(databaseUrl))
    expect([second.size, [...second].some((mark) => first.has(mark))]).toEqual([1, false])

    // Without the first key everything still opens; of the audit nobody can tell any longer who wrote its beginning.
    await within(databaseUrl, [SECOND], async (app) => {
      expect(await show(await signedIn(app, 'planner'))).toEqual(before)
      expect((await check(app)).brokenAt).toBe(1)
    })

    // With a key that never was, nothing opens, nothing is lost, and that is said.
    await within(databaseUrl, [THIRD], async (app) => {
      const planner = await signedIn(app, 'planner')
      const reply = await planner('POST', `${SITE}/keys/show`, { owner: 'surveyor' })
      expect([reply.status, codesOf(reply)]).toEqual([409, ['sealed-otherwise']])
    })
    await within(databaseUrl, [THIRD, SECOND, FIRST], async (app) => {
      expect(await show(await signedIn(app, 'planner'))).toEqual(before)
    })
  })

  it('does not let lines of the audit be made under a key from before it', async () => {
    const databaseUrl = await freshDatabase()
    await within(databaseUrl, [FIRST], async (app) => void (await signedIn(app, 'planner')))
    await within(databaseUrl, [SECOND, FIRST], async (app) => void (await signedIn(app, 'planner')))
    // Whoever has the first key alone goes on writing.
    await within(databaseUrl, [FIRST], async (app) => void (await signedIn(app, 'planner')))
    await within(databaseUrl, [SECOND, FIRST], async (app) => expect((await check(app)).brokenAt).toBe(3))
  })

  it('is put before the others by ./mast keys rotate, and only where there is one', () => {
    const scratch = mkdtempSync(join(tmpdir(), 'mast-keys-'))
    const rotate = (...args: string[]) =>
      spawnSync(process.execPath, ['mast', 'keys', ...args], {
        env: {
          ...process.env,
          MAST_DATA: join(scratch, 'data'),
          MAST_SERVER_KEY: '',
          NUXT_SESSION_PASSWORD: '',
        },
        encoding: 'utf8',
      })
    try {
      expect(rotate('rotate').stderr).toContain('There is no key yet')
      mkdirSync(join(scratch, 'data'))
      const file = join(scratch, 'data/server.key')
      writeFileSync(file, FIRST ?? '')
      expect(rotate().status).not.toBe(0)
      expect(rotate('rotate').status).toBe(0)
      const keys = readFileSync(file, 'utf8').split('\n')
      expect([keys.length, keys[1]]).toEqual([2, FIRST])
      expect(keys[0]).toMatch(/^[0-9a-f]{64}$/)
      expect(statSync(file).mode & 0o777).toBe(0o600)
    } finally {
      rmSync(scratch, { recursive: true, force: true })
    }
  })
})
