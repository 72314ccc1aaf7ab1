import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { sql } from 'drizzle-orm'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import { loadDemo } from '#server/demo/load'
import { settleLab, stopLab } from '#server/lab/stand-ins'
import { closeDatabase, database } from '#server/platform/database'
import { closeQueue } from '#server/platform/queue'
import { startJobs } from '#server/jobs/what-if'
import { describeError } from '#server/platform/log'
import { settings } from '#server/platform/settings'
import { closeStreams } from '#server/platform/streams'

/** The migrations: beside the built server's entry, or in the source tree under development. */
function migrationsFolder(): string {
  const beside = join(dirname(process.argv[1] ?? '.'), 'migrations')
  return existsSync(beside) ? beside : join(process.cwd(), 'server/db/migrations')
}

// Several servers may start at once against one database: the lock lets one of them migrate.
const START_LOCK = 610061

async function prepare(): Promise<void> {
  const db = database()
  await db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${START_LOCK})`)
    await migrate(db, { migrationsFolder: migrationsFolder() })
    if (settings().demo) await loadDemo(tx)
    await settleLab(tx)
  })
}

export default defineNitroPlugin((nitro) => {
  const ready = prepare()
    .then(() => void startJobs())
    .catch((error: unknown) => {
      const { message, code } = describeError(error)
      console.error(`Able Mast cannot use its database: ${message}${code === '' ? '' : ` (${code})`}`)
      process.exit(3)
    })
  nitro.hooks.hook('request', async () => {
    await ready
  })
  nitro.hooks.hook('close', async () => {
    stopLab()
    await closeQueue()
    await closeStreams()
    await closeDatabase()
  })
})
