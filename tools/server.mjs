import { spawn } from 'node:child_process'
import { hkdfSync } from 'node:crypto'
import net from 'node:net'
import { join } from 'node:path'
import { ROOT } from './run.mjs'
import { Stop } from './say.mjs'

/** Refuses a port that somebody listens on. */
export function checkPort(host, port) {
  return new Promise((resolve, reject) => {
    const probe = net.createServer()
    probe.once('error', (error) =>
      reject(
        new Stop(
          error.code === 'EADDRINUSE'
            ? `Port ${port} on ${host} is taken; stop what uses it or set MAST_PORT.`
            : `Cannot listen on ${host}:${port}: ${error.message}`,
          2,
        ),
      ),
    )
    probe.listen(port, host, () => probe.close(() => resolve()))
  })
}

/** What a server is told of its keys: a line each, newest first. Cookies are sealed under one derived from it. */
export function keysFor(serverKey) {
  const [newest, ...older] = serverKey.split('\n')
  return {
    MAST_SERVER_KEY: newest,
    MAST_OLDER_KEYS: older.join(' '),
    NUXT_SESSION_PASSWORD: Buffer.from(hkdfSync('sha256', newest, 'able-mast', 'cookies', 32)).toString(
      'hex',
    ),
  }
}

/**
 * The built application as a child process.
 * @param database `url` by which its owner asks, `serverUrl` by which the server does
 * @returns `ready` resolves at its first good answer
 */
export function startServer({ host, port, database, serverKey, env = {} }) {
  const child = spawn(process.execPath, [join(ROOT, '.output/server/index.mjs')], {
    // Its own greeting would say the address before the database was asked; what goes wrong it says on
    // standard error.
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      NITRO_HOST: host,
      NITRO_PORT: String(port),
      NITRO_SHUTDOWN_TIMEOUT: '2000',
      DATABASE_URL: database.serverUrl,
      MAST_OWNER_URL: database.url,
      ...keysFor(serverKey),
      // Over plain HTTP no browser would send it.
      NUXT_SESSION_COOKIE_SECURE:
        process.env.NUXT_SESSION_COOKIE_SECURE ??
        String(process.env.MAST_PUBLIC_URL?.startsWith('https:') ?? false),
      MAST_SELF_URL: `http://${host === '0.0.0.0' ? '127.0.0.1' : host}:${port}`,
      ...env,
    },
  })
  const ended = new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 1)))
  return { child, ended, ready: answers(`http://${host}:${port}/api/health`, ended) }
}

/** Polls until the address answers well, or the server ended, or half a minute is over. */
async function answers(url, ended) {
  let over = false
  void ended.then(() => (over = true))
  for (let tries = 0; tries < 300; tries++) {
    if (over) throw new Stop('the server stopped before it was ready.', 3, true)
    try {
      if ((await fetch(url)).ok) return
    } catch {
      // Not listening yet.
    }
    await new Promise((done) => setTimeout(done, 100))
  }
  throw new Stop('the server did not answer within 30 seconds.', 3)
}
