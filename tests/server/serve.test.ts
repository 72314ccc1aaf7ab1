import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import postgres from 'postgres'
import { afterAll, describe, expect, it } from 'vitest'
import type { Me, SiteLine } from '#contracts/api'
import { freePort } from '../../tools/postgres.mjs'
import {
  client,
  codesOf,
  cookiesOf,
  eventually,
  freshDatabase,
  signedInAs,
  startApp,
  type App,
} from './harness'

// `./mast serve` as its owner starts it: what it says, and what becomes of it when something dies.

const scratch = mkdtempSync(join(tmpdir(), 'mast-serve-'))
const children: { kill: () => void }[] = []
afterAll(() => {
  for (const child of children) child.kill()
  rmSync(scratch, { recursive: true, force: true })
})

async function start(command: 'serve' | 'demo', databaseUrl: string, env: Record<string, string> = {}) {
  const port = await freePort()
  const child = spawn(process.execPath, ['mast', command], {
    env: {
      MAST_AS_IT_IS: '1',
      ...process.env,
      DATABASE_URL: databaseUrl,
      MAST_PORT: String(port),
      MAST_DATA: join(scratch, 'data'),
      ...env,
    },
  })
  children.push({ kill: () => child.kill('SIGTERM') })
  let output = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (output += String(part)))
  const ended = new Promise<number>((resolve) => child.once('exit', (code) => resolve(code ?? -1)))
  const app: App = {
    url: `http://127.0.0.1:${port}`,
    databaseUrl,
    stop: () => (child.kill('SIGTERM'), ended),
  }
  return { app, child, ended, said: () => output }
}
const health = (app: App) => async () =>
  client(app)('GET', '/api/health').then(
    ({ status }) => status,
    () => 0,
  )
const isUp = (status: number) => status === 200
const PASSWORD = 'walrus-teapot-gravel-noon'
const FIRST = {
  MAST_ADMIN_NAME: 'Owner',
  MAST_ADMIN_PASSWORD: PASSWORD,
  MAST_ORGANISATION: 'Pier Works',
}

describe('a first start for real', () => {
  it('has nobody and nothing, and whoever opens the link that it prints administers it', async () => {
    const { app, said } = await start('serve', await freshDatabase())
    await eventually(health(app), isUp, 60_000)
    const token = await eventually(
      async () => /\/join#([\w-]+)/.exec(said())?.[1] ?? '',
      (found) => found !== '',
    )
    const first = { token, name: 'Owner', organisation: 'Pier Works', password: PASSWORD }
    const both = await Promise.all([1, 2].map(() => client(app)('POST', '/api/join/first', first)))
    expect(both.map(({ status }) => status).sort()).toEqual([200, 404])
    const cookie = cookiesOf(both.find(({ status }) => status === 200) ?? both[0]!)
    const owner = client(app, cookie)
    expect((await owner<Me>('GET', '/api/me')).body).toEqual({
      name: 'Owner',
      organisation: 'Pier Works',
      role: 'administrator',
      siteRoles: {},
      isOperator: true,
      hasPassword: true,
      hasFactor: false,
      needsFactor: false,
    })
    expect((await owner<SiteLine[]>('GET', '/api/sites')).body).toEqual([])
    for (const { name, password } of DEMO_PEOPLE)
      expect((await client(app)('POST', '/api/sign-in', { name, password })).status).toBe(401)
    expect(await app.stop()).toBe(0)
  })
  it('takes the first administrator from the environment and a file', async () => {
    const file = join(scratch, 'password')
    writeFileSync(file, `${PASSWORD}\n`)
    const env = { MAST_ADMIN_NAME: 'Owner', MAST_ADMIN_PASSWORD_FILE: file }
    const { app, said } = await start('serve', await freshDatabase(), env)
    await eventually(health(app), isUp, 60_000)
    expect((await client(app)('POST', '/api/sign-in', { name: 'Owner', password: PASSWORD })).status).toBe(
      200,
    )
    expect(said()).not.toMatch(/join#|walrus/)
  })
  it('refuses a password from there that is easy to guess', async () => {
    const env = { MAST_ADMIN_NAME: 'Owner', MAST_ADMIN_PASSWORD: 'password1234' }
    const { ended, said } = await start('serve', await freshDatabase(), env)
    expect(await ended).toBe(7)
    expect(said()).toContain('easy to guess')
  })
})

const DEMO_PEOPLE = [
  { name: 'Administrator', password: 'anchor-and-windlass' },
  { name: 'Planner', password: 'chart-and-pencil' },
]

describe('a database that belongs to others', () => {
  it('of a demo is not served for real, nor one of real people as a demo', async () => {
    const demo = await startApp()
    await demo.stop()
    const real = await startApp({ env: { MAST_DEMO: '' } })
    await real.stop()
    const wrong = await Promise.all([start('serve', demo.databaseUrl), start('demo', real.databaseUrl)])
    expect(await Promise.all(wrong.map(({ ended }) => ended))).toEqual([7, 7])
    expect(wrong[0]?.said()).toContain('belongs to a demo')
    expect(wrong[1]?.said()).toContain('belongs to real people')
    const database = postgres(real.databaseUrl, { max: 1 })
    const [people] = await database`select count(*)::int as count from people`
    await database.end()
    expect(people?.['count']).toBe(0)
  })
  it('of a demo has no site restored that somebody deleted', async () => {
    const first = await startApp()
    const database = postgres(first.databaseUrl, { max: 1 })
    await database`delete from sites`
    await database`delete from people where name <> 'Keeper'`
    await database.end()
    await first.stop()
    const second = await startApp({ databaseUrl: first.databaseUrl })
    const keeper = await client(second)('POST', '/api/sign-in', {
      name: 'Keeper',
      password: 'lamp-and-ledger',
    })
    const sites = await client(second, cookiesOf(keeper))<SiteLine[]>('GET', '/api/sites')
    expect(sites.body).toEqual([])
    expect((await client(second)('POST', '/api/sign-in', DEMO_PEOPLE[1])).status).toBe(401)
    await second.stop()
  })
  it('of which nobody can sign in any longer who operates it has a link for the first who did', async () => {
    const first = await startApp({ env: { MAST_DEMO: '0', ...FIRST } })
    const owner = await signedInAs(first, FIRST.MAST_ADMIN_NAME, PASSWORD)
    expect((await owner<Me>('GET', '/api/me')).body).toMatchObject({
      isOperator: true,
      organisation: 'Pier Works',
    })
    await first.stop()
    const database = postgres(first.databaseUrl, { max: 1 })
    await database`delete from identities using people where people.id = person_id and is_operator`
    await database`update people set password_hash = null where is_operator`
    await database.end()
    // What the environment says of the first counts only while there is none.
    const { app, child, said } = await start('serve', first.databaseUrl, FIRST)
    const token = await eventually(
      async () => /\/join#([\w-]+)/.exec(said())?.[1] ?? '',
      (found) => found !== '',
      60_000,
    )
    expect(said()).toContain(`as ${FIRST.MAST_ADMIN_NAME}`)
    await eventually(health(app), isUp, 60_000)
    const back = await client(app)<Me>('POST', '/api/join', { token, password: 'lantern-biscuit-gable-moss' })
    expect(back.body).toMatchObject({
      name: FIRST.MAST_ADMIN_NAME,
      organisation: 'Pier Works',
      isOperator: true,
    })
    child.kill('SIGTERM')
  })
  it('of a newer Able Mast is left alone', async () => {
    const app = await startApp()
    await app.stop()
    const database = postgres(app.databaseUrl, { max: 1 })
    const when = Date.now() + 9e9
    await database`insert into drizzle.__drizzle_migrations (hash, created_at) values ('of tomorrow', ${when})`
    await database.end()
    const { ended, said } = await start('demo', app.databaseUrl)
    expect(await ended).toBe(7)
    expect(said()).toContain('newer Able Mast')
  })
})

describe('when something dies', () => {
  it('the server is started again, with everybody who was signed in', async () => {
    const { app, child } = await start('demo', await freshDatabase())
    await eventually(health(app), isUp, 60_000)
    const signed = await client(app)('POST', '/api/sign-in', DEMO_PEOPLE[1])
    const children = readFileSync(`/proc/${child.pid}/task/${child.pid}/children`, 'utf8')
    process.kill(Number(children.trim().split(' ')[0]), 'SIGKILL')
    await eventually(health(app), (status) => !isUp(status))
    await eventually(health(app), isUp, 60_000)
    expect((await client(app, cookiesOf(signed))('GET', '/api/me')).status).toBe(200)
    expect(await app.stop()).toBe(0)
  })
  it('a database that is not there yet is waited for, and the page is told', async () => {
    const url = new URL(await freshDatabase())
    const { port } = url
    url.port = String(await freePort())
    const { app } = await start('demo', url.href)
    const reply = await eventually(
      () =>
        client(app)('GET', '/api/me').then(
          (answer) => ({ status: answer.status, codes: codesOf(answer) }),
          () => ({ status: 0, codes: [] }),
        ),
      ({ status }) => status !== 0,
      60_000,
    )
    expect(reply).toEqual({ status: 503, codes: ['no-database'] })
    const { createServer, connect } = await import('node:net')
    // The database comes: what listens there now hands everything on to it.
    const comes = createServer((socket) => {
      const onward = connect(Number(port), url.hostname)
      socket.pipe(onward).pipe(socket)
      for (const one of [socket, onward]) one.on('error', () => one.destroy())
    })
    await new Promise<void>((done) => comes.listen(Number(url.port), '127.0.0.1', done))
    await eventually(health(app), isUp, 60_000)
    expect((await client(app)('POST', '/api/sign-in', DEMO_PEOPLE[1])).status).toBe(200)
    await app.stop()
    comes.close()
  })
})
