import PgBoss from 'pg-boss'
import { describeError, log } from './log'
import { settings } from './settings'

// Long work, kept in PostgreSQL: any server process may take it, and what a dying one leaves is taken by
// another.

let boss: Promise<PgBoss> | undefined
/** Name of the queue of what-if runs. */
export const QUEUE = 'what-if'
/** A job that has not ended after so long is given to another. */
const EXPIRES_S = 3600

async function opened(work: (runId: number) => Promise<void>): Promise<PgBoss> {
  const made = new PgBoss({ connectionString: settings().databaseUrl, max: 3, supervise: true })
  made.on('error', (error) => log.error({ error: describeError(error) }, 'queue'))
  await made.start()
  await made.createQueue(QUEUE, {
    name: QUEUE,
    policy: 'standard',
    retryLimit: 2,
    expireInSeconds: EXPIRES_S,
  })
  await made.work<{ runId: number }>(QUEUE, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([job]) => {
    if (job) await work(job.data.runId)
  })
  return made
}

/** Opens the queue and works on what is in it, one job at a time. */
export function openQueue(work: (runId: number) => Promise<void>): Promise<PgBoss> {
  boss ??= opened(work).catch((error: unknown) => {
    // Whoever comes next tries again.
    boss = undefined
    throw error
  })
  return boss
}

/** Whether the queue is open. */
export const hasQueue = async (): Promise<boolean> => (await boss?.catch(() => undefined)) !== undefined

/** Puts a run into the queue. Put in twice, it is done once: whoever comes second finds it ended. */
export async function enqueue(runId: number): Promise<void> {
  await (await boss)?.send(QUEUE, { runId })
}

export async function closeQueue(): Promise<void> {
  const open = await boss?.catch(() => undefined)
  boss = undefined
  await open?.stop({ graceful: true, timeout: 1500, close: true })
}
