import { clearInterval, setInterval } from 'node:timers'
import { setTimeout as wait } from 'node:timers/promises'
import { say } from './say.mjs'
import { startServer } from './server.mjs'

/** The server ended because it must not start: another try says the same. */
const REFUSED = 7
const FIRST_DELAY_MS = 500
const MOST_DELAY_MS = 30_000
/** A server that ran for so long had started well. */
const WELL_MS = 60_000
const LOOK_EVERY_MS = 5000

/** Signals that ask for an end, as one promise. */
const stopAsked = () =>
  new Promise((resolve) =>
    ['SIGINT', 'SIGTERM', 'SIGHUP'].forEach((signal) => process.on(signal, () => resolve(0))),
  )

/** Starts a database of our own anew wherever it has ended, until the returned function is called. */
function keepDatabaseUp(database) {
  let isLooking = false
  const timer = setInterval(async () => {
    if (isLooking) return
    isLooking = true
    try {
      if (await database.restart()) say('PostgreSQL had ended; it runs again.')
    } catch (error) {
      say(error.message)
    }
    isLooking = false
  }, LOOK_EVERY_MS)
  return () => clearInterval(timer)
}

/**
 * Serves until a stop is asked for. A server that ends by itself, or is killed, is started anew, after longer and
 * longer waits.
 * @param options as `startServer` takes them
 * @param onReady called when the first one answers
 * @returns the exit code
 */
export async function keepUp(database, options, onReady) {
  const stopping = stopAsked()
  const isStopped = stopping.then(() => true)
  const letDatabase = keepDatabaseUp(database)
  let server
  try {
    for (let [delayMs, isFirst] = [FIRST_DELAY_MS, true]; ; isFirst = false) {
      const startMs = Date.now()
      server = startServer(options)
      await Promise.race([
        server.ready.then(isFirst ? onReady : () => undefined).catch(() => undefined),
        stopping,
      ])
      const code = await Promise.race([server.ended, isStopped])
      if (code === true) return 0
      if (code === REFUSED) return code
      if (Date.now() - startMs > WELL_MS) delayMs = FIRST_DELAY_MS
      say(`The server ended (${code}); it is started again in ${delayMs / 1000} s.`)
      if (await Promise.race([wait(delayMs), isStopped])) return 0
      delayMs = Math.min(2 * delayMs, MOST_DELAY_MS)
    }
  } finally {
    letDatabase()
    server?.child.kill('SIGTERM')
    await server?.ended
    await database.stop()
  }
}
