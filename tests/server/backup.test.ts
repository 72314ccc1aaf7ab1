import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PlanAt } from '#contracts/api'
import { client, freshDatabase, personOf, signedIn, startApp, type App } from './harness'

// All is destroyed, and comes back from one file and a passphrase.

const scratch = mkdtempSync(join(tmpdir(), 'mast-backups-'))
const PASSPHRASE = 'walrus-teapot-gravel-noon'
const KEY = 'a-key-that-seals-of-thirty-two-letters'
const file = join(scratch, 'all.backup')

/** `./mast COMMAND`, with a folder of data of its own. */
function mast(data: string, databaseUrl: string, args: readonly string[], passphrase = PASSPHRASE) {
  const child = spawn(process.execPath, ['mast', ...args], {
    env: {
      MAST_AS_IT_IS: '1',
      ...process.env,
      DATABASE_URL: databaseUrl,
      MAST_DATA: join(scratch, data),
      MAST_BACKUP_PASSPHRASE: passphrase,
    },
  })
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (said += String(part)))
  return new Promise<{ code: number; said: string }>((resolve) =>
    child.once('exit', (code) => resolve({ code: code ?? -1, said })),
  )
}
const keyOf = (data: string) => readFileSync(join(scratch, data, 'server.key'), 'utf8')

let app: App
let plan: PlanAt
let shown: string
const SHOW = '/api/sites/gullhaven/passphrases/show'

beforeAll(async () => {
  mkdirSync(join(scratch, 'first'))
  writeFileSync(join(scratch, 'first/server.key'), KEY)
  app = await startApp({ serverKey: KEY })
  const planner = await signedIn(app, 'planner')
  plan = (await planner<PlanAt>('GET', '/api/sites/gullhaven/plan')).body
  const ssid = plan.plan.ssids.find(({ settings }) => settings.security !== 'open')?.id
  await planner('POST', '/api/sites/gullhaven/passphrases', { ssid, passphrase: 'driftwood kettle nine' })
  shown = ssid ?? ''
})
afterAll(async () => {
  await app.stop()
  rmSync(scratch, { recursive: true, force: true })
})

describe('a backup', () => {
  it('is written while the server runs, and read back before it is called one', async () => {
    const { code, said } = await mast('first', app.databaseUrl, ['backup', file])
    expect(said).toContain('4 sites, 4 people, opened and counted')
    expect(code).toBe(0)
    expect(readFileSync(file).includes(KEY)).toBe(false)
    expect((await mast('first', app.databaseUrl, ['backup', file])).said).toContain('is there already')
  })
  it('brings everything back after a fire: people, plans, and what was sealed', async () => {
    const ashes = await freshDatabase()
    const { code, said } = await mast('second', ashes, ['restore', file])
    expect(said).toContain('4 sites, 4 people')
    expect(code).toBe(0)
    expect(keyOf('second')).toBe(KEY)
    const back = await startApp({ databaseUrl: ashes, serverKey: keyOf('second') })
    try {
      const planner = await signedIn(back, 'planner')
      const { name, password } = personOf('keeper')
      expect((await planner<PlanAt>('GET', '/api/sites/gullhaven/plan')).body).toEqual(plan)
      const reply = await planner('POST', SHOW, { ssid: shown })
      expect(reply.text).toContain('driftwood kettle nine')
      expect((await client(back)('POST', '/api/sign-in', { name, password })).status).toBe(200)
    } finally {
      await back.stop()
    }
  })
  it('is not opened by another passphrase, nor where a byte of it was changed', async () => {
    const wrong = await mast('third', await freshDatabase(), ['restore', file], 'another passphrase')
    expect([wrong.code, wrong.said.trim()]).toEqual([1, 'This is not the passphrase of the backup.'])
    expect(existsSync(join(scratch, 'third/server.key'))).toBe(false)
    const bytes = readFileSync(file)
    const at = bytes.indexOf('PGDMP') + 2000
    bytes[at] = (bytes[at] ?? 0) ^ 1
    writeFileSync(join(scratch, 'bent.backup'), bytes)
    const bent = await mast('third', await freshDatabase(), ['restore', join(scratch, 'bent.backup')])
    expect(bent.code).toBe(3)
    expect(bent.said).toContain('is not what was written')
  })
  it('leaves the key of another installation alone', async () => {
    mkdirSync(join(scratch, 'fourth'))
    writeFileSync(join(scratch, 'fourth/server.key'), 'the key of somebody else, of thirty-two letters')
    const ashes = await freshDatabase()
    const { code, said } = await mast('fourth', ashes, ['restore', file])
    expect([code, said]).toEqual([1, expect.stringContaining('key of another installation')])
    expect(keyOf('fourth')).toContain('somebody else')
    const database = postgres(ashes, { max: 1 })
    const [row] = await database`select count(*)::int as count from pg_tables where schemaname = 'public'`
    await database.end()
    expect(row?.['count']).toBe(0)
  })
  it('is not laid over what is there', async () => {
    const { code, said } = await mast('first', app.databaseUrl, ['restore', file])
    expect(code).toBe(1)
    expect(said).toContain('not empty; nothing was changed')
    const database = postgres(app.databaseUrl, { max: 1 })
    const [row] = await database`select count(*)::int as count from people`
    await database.end()
    expect(row?.['count']).toBe(4)
  })
})
