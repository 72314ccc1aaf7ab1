import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { checkNode, ensureBuilt, ensureDebian, ensurePackages } from './install.mjs'
import { keepUp } from './keep-up.mjs'
import { rotateServerKey, serverKey, startKeptDatabase } from './postgres.mjs'
import { node, ROOT } from './run.mjs'
import { say, Stop } from './say.mjs'
import { checkPort, keysFor } from './server.mjs'

const DEMO = { MAST_DEMO: '1', MAST_SILENCE_LIMIT_MS: '8000' }

function tellSignIns(url) {
  const people = JSON.parse(readFileSync(join(ROOT, 'server/demo/people.json'), 'utf8'))
  say(`\nAble Mast is at ${url}\n`)
  for (const { name, password } of people) say(`  ${name.padEnd(14)} ${password}`)
  say('\nCtrl-C stops it.')
}

/** Where it listens. */
const wanted = () => ({
  host: process.env.MAST_HOST ?? '127.0.0.1',
  port: Number(process.env.MAST_PORT ?? 4180),
})

async function prepare({ host, port }) {
  checkNode()
  await checkPort(host, port)
  await ensureDebian({ browser: false })
  await ensurePackages()
  await ensureBuilt()
}

/** Installs, builds and serves the demo until it is stopped. */
export async function demo() {
  const at = wanted()
  await prepare(at)
  const database = await startKeptDatabase('demo')
  const options = { ...at, database, serverKey: serverKey('demo'), env: DEMO }
  return keepUp(database, options, () => tellSignIns(`http://${at.host}:${at.port}`))
}

/** Installs, builds and serves for real: nobody is there before the first administrator. */
export async function serve() {
  const at = wanted()
  await prepare(at)
  const database = await startKeptDatabase('serve')
  const options = { ...at, database, serverKey: serverKey('serve') }
  const publicUrl = process.env.MAST_PUBLIC_URL
  return keepUp(database, options, () => {
    say(`\nAble Mast is at ${publicUrl ?? `http://${at.host}:${at.port}`}`)
    if (!publicUrl?.startsWith('https:'))
      say(
        'Passwords cross the network as they are: put a proxy with TLS in front and say so by MAST_PUBLIC_URL.',
      )
    say('Ctrl-C stops it.')
  })
}

/** The demo with sources watched, for work on Able Mast itself. */
export async function dev() {
  checkNode()
  await ensureDebian({ browser: false })
  await ensurePackages()
  const database = await startKeptDatabase('demo')
  try {
    const env = {
      ...DEMO,
      DATABASE_URL: database.serverUrl,
      MAST_OWNER_URL: database.url,
      ...keysFor(serverKey('demo')),
      NUXT_SESSION_COOKIE_SECURE: 'false',
      MAST_SELF_URL: 'http://127.0.0.1:4180',
    }
    return (
      await node(
        'node_modules/nuxt/bin/nuxt.mjs',
        ['dev', '--no-fork', '--host', '127.0.0.1', '--port', '4180'],
        { env, stoppable: true },
      )
    ).code
  } finally {
    await database.stop()
  }
}

/** Makes a new key; what was sealed under those before is sealed under it at the next start. */
export function keys(deed) {
  if (deed !== 'rotate') throw new Stop('Say what: ./mast keys rotate')
  if (process.env.MAST_SERVER_KEY)
    throw new Stop(
      'The key comes from MAST_SERVER_KEY: give a new one there, and the one until now in MAST_OLDER_KEYS.',
    )
  const count = rotateServerKey('serve')
  if (count === 0) throw new Stop('There is no key yet: Able Mast was never served here.')
  say(`There are ${count} keys now. Start ./mast serve anew: everything is sealed under the new one then,`)
  say('and everybody signs in again. Make a backup: those of before hold the keys until now alone.')
  return 0
}
