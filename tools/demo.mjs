import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { checkNode, ensureBuilt, ensureDebian, ensurePackages } from './install.mjs'
import { sessionKey, startDemoDatabase } from './postgres.mjs'
import { node, ROOT } from './run.mjs'
import { say } from './say.mjs'
import { checkPort, startServer } from './server.mjs'

const DEMO = { MAST_DEMO: '1', MAST_SILENCE_LIMIT_MS: '8000' }

function tellSignIns(url) {
  const people = JSON.parse(readFileSync(join(ROOT, 'server/demo/people.json'), 'utf8'))
  say(`\nAble Mast is at ${url}\n`)
  for (const { name, password } of people) say(`  ${name.padEnd(9)} ${password}`)
  say('\nCtrl-C stops it.')
}

/** Installs, builds and serves the demo until it is stopped. */
export async function demo() {
  const host = process.env.MAST_HOST ?? '127.0.0.1'
  const port = Number(process.env.MAST_PORT ?? 4180)
  checkNode()
  await checkPort(host, port)
  await ensureDebian({ browser: false })
  await ensurePackages()
  await ensureBuilt()
  const database = await startDemoDatabase()
  let server
  const stopping = new Promise((resolve) =>
    ['SIGINT', 'SIGTERM', 'SIGHUP'].forEach((signal) => process.on(signal, () => resolve(0))),
  )
  try {
    server = startServer({ host, port, databaseUrl: database.url, sessionPassword: sessionKey(), env: DEMO })
    await Promise.race([server.ready, stopping])
    tellSignIns(`http://${host}:${port}`)
    return await Promise.race([stopping, server.ended])
  } finally {
    server?.child.kill('SIGTERM')
    await server?.ended
    await database.stop()
  }
}

/** The same with sources watched, for work on Able Mast itself. */
export async function dev() {
  checkNode()
  await ensureDebian({ browser: false })
  await ensurePackages()
  const database = await startDemoDatabase()
  try {
    const env = {
      ...DEMO,
      DATABASE_URL: database.url,
      NUXT_SESSION_PASSWORD: sessionKey(),
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
