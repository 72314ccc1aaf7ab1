import { existsSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { sql } from 'drizzle-orm'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import { loadDemo } from '#server/demo/load'
import { closeListener, openListener } from '#server/bootstrap/listener'
import { settleLab, stopLab } from '#server/lab/stand-ins'
import { asOwner, closeDatabase, type Database } from '#server/platform/database'
import { asServer } from '#server/platform/scope'
import { closeHeavy } from '#server/platform/heavy'
import { closeQueue } from '#server/platform/queue'
import { startUpkeep } from '#server/jobs/upkeep'
import { startWebhooks } from '#server/jobs/webhooks'
import { startJobs } from '#server/jobs/what-if'
import { describeError, log } from '#server/platform/log'
import { readiness } from '#server/platform/readiness'
import { Refused } from '#server/platform/route'
import { settings } from '#server/platform/settings'
import { closeStreams } from '#server/platform/streams'
import {
  admitServer,
  checkAge,
  refuseOtherKind,
  settleKind,
  StartRefused,
  useNewestKey,
  welcomeFirst,
} from '#server/services/installation'

/** The migrations: beside the built server's entry, or in the source tree under development. */
function migrationsFolder(): string {
  const beside = join(dirname(process.argv[1] ?? '.'), 'migrations')
  return existsSync(beside) ? beside : join(process.cwd(), 'server/db/migrations')
}

/** When the newest migration that this program knows was written, ms. */
function newestKnown(folder: string): number {
  const { entries } = JSON.parse(readFileSync(join(folder, 'meta/_journal.json'), 'utf8')) as {
    readonly entries: readonly { readonly when: number }[]
  }
  return Math.max(...entries.map(({ when }) => when))
}

// Several servers may start at once against one database: the lock lets one of them migrate.
const START_LOCK = 610061

async function prepare(db: Database): Promise<void> {
  const folder = migrationsFolder()
  await db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${START_LOCK})`)
    await checkAge(tx, newestKnown(folder))
    await refuseOtherKind(tx)
    await migrate(db, { migrationsFolder: folder })
    await admitServer(tx)
    const isNew = await settleKind(tx)
    if (!settings().demo) await welcomeFirst(tx)
    else if (isNew) await loadDemo(tx)
    await useNewestKey(tx)
    await settleLab(tx)
  })
}

/** What a database says or does that is not there, or is not there yet (PostgreSQL, appendix A, and Node.js). */
const NOT_THERE =
  /^(ECONN|ENOTFOUND|EAI_AGAIN|EHOSTUNREACH|ETIMEDOUT|CONNECT_TIMEOUT|CONNECTION_|08|57P0|53300)/
const FIRST_DELAY_MS = 250
const MOST_DELAY_MS = 15_000

/** Prepares, again and again while there is no database. */
async function prepareInTime(): Promise<void> {
  for (let delayMs = FIRST_DELAY_MS; ; delayMs = Math.min(2 * delayMs, MOST_DELAY_MS)) {
    try {
      return await asOwner(prepare)
    } catch (error) {
      const { message, code } = describeError(error)
      if (!NOT_THERE.test(code)) throw error
      console.error(`Able Mast waits for its database: ${message} (${code})`)
      await new Promise((done) => setTimeout(done, delayMs))
    }
  }
}

/** Why the first administrator of the environment was refused. */
const FIRST_REFUSED: Readonly<Record<string, string>> = {
  'password-short': 'the password is too short',
  'password-weak': 'the password is easy to guess',
  'name-in-use': 'somebody else is called so',
}

/** Says why nothing comes of it, and ends. */
function giveUp(error: unknown): never {
  if (error instanceof StartRefused) {
    console.error(`Able Mast does not start: ${error.message}.`)
    process.exit(7)
  }
  if (error instanceof Refused) {
    const why = FIRST_REFUSED[error.message] ?? error.message
    console.error(`Able Mast does not start: the first administrator was refused: ${why}.`)
    process.exit(7)
  }
  const { message, code } = describeError(error)
  console.error(`Able Mast cannot use its database: ${message}${code === '' ? '' : ` (${code})`}`)
  process.exit(3)
}

/** People are answered all the same where devices cannot be. */
const startListener = (): Promise<void> =>
  openListener().catch((error: unknown) =>
    log.error({ error: describeError(error) }, 'the bootstrap server did not start'),
  )

/** A page that was asked for while the server starts waits so long for it; then it is told. */
const PATIENCE_MS = 3000

export default defineNitroPlugin((nitro) => {
  const ready = asServer(async () => {
    try {
      await prepareInTime()
    } catch (error) {
      giveUp(error)
    }
    readiness.isReady = true
    void startJobs()
    void startListener()
    startUpkeep()
    startWebhooks()
  })
  nitro.hooks.hook('request', async () => {
    if (!readiness.isReady) await Promise.race([ready, new Promise((done) => setTimeout(done, PATIENCE_MS))])
  })
  nitro.hooks.hook('close', async () => {
    stopLab()
    await closeListener()
    await closeQueue()
    await closeHeavy()
    await closeStreams()
    await closeDatabase()
  })
})
