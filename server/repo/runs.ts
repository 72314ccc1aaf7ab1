import { and, desc, eq, inArray, isNull, sql } from 'drizzle-orm'
import type { RunLine, RunRow } from '#contracts/api'
import { sites, whatIfRuns } from '#server/db/schema'
import { driver, type Queries } from '#server/platform/database'

const MOST_LISTED = 50
const { id, revision, kind, askedAt, askedBy, state, tried, total, finishedAt, things } = whatIfRuns
const LINE = { id, revision, kind, askedAt, askedBy, state, tried, total, finishedAt, things }
type Row = { readonly [K in keyof typeof LINE]: (typeof whatIfRuns.$inferSelect)[K] }
const lineOf = ({ askedAt: asked, finishedAt: finished, ...rest }: Row): RunLine => ({
  ...rest,
  askedAt: asked.toISOString(),
  finishedAt: finished?.toISOString() ?? null,
})

/** A site's runs, newest first, without their results. */
export async function runsOf(queries: Queries, siteId: number): Promise<RunLine[]> {
  return (
    await queries
      .select(LINE)
      .from(whatIfRuns)
      .where(eq(whatIfRuns.siteId, siteId))
      .orderBy(desc(whatIfRuns.id))
      .limit(MOST_LISTED)
  ).map(lineOf)
}

export async function runWith(queries: Queries, runId: number) {
  const [row] = await queries
    .select({ ...LINE, siteId: whatIfRuns.siteId, slug: sites.slug, result: whatIfRuns.result })
    .from(whatIfRuns)
    .innerJoin(sites, eq(sites.id, whatIfRuns.siteId))
    .where(and(eq(whatIfRuns.id, runId), isNull(sites.deletedAt)))
  if (!row) return row
  const { siteId, slug, result, ...line } = row
  return { siteId, slug, result, line: lineOf(line) }
}

export async function addRun(queries: Queries, run: typeof whatIfRuns.$inferInsert): Promise<number> {
  const [row] = await queries.insert(whatIfRuns).values(run).returning({ id: whatIfRuns.id })
  return row?.id ?? 0
}

/** Runs that nobody has finished: a server that dies leaves them behind. */
export async function openRuns(queries: Queries): Promise<number[]> {
  return (
    await queries
      .select({ id: whatIfRuns.id })
      .from(whatIfRuns)
      .where(inArray(whatIfRuns.state, ['waiting', 'running']))
  ).map((r) => r.id)
}

/** Class of the advisory locks of runs; any number that nobody else uses. */
const RUN_LOCK = 610_062

/**
 * Works on a run where no other server does; the database lets go of it when this one dies.
 * @returns false where another works on it
 */
export async function aloneWith(runId: number, work: () => Promise<void>): Promise<boolean> {
  const connection = await driver().reserve()
  try {
    const [row] = await connection`select pg_try_advisory_lock(${RUN_LOCK}, ${runId}) as is_mine`
    if (row?.['is_mine'] !== true) return false
    try {
      await work()
    } finally {
      await connection`select pg_advisory_unlock(${RUN_LOCK}, ${runId})`
    }
    return true
  } finally {
    connection.release()
  }
}

/**
 * Open runs on which no server works and which none will take from the queue: whoever took them has died.
 * @param queue name of the queue, whose jobs name their run as `runId`
 */
export async function abandonedRuns(queries: Queries, queue: string): Promise<number[]> {
  const rows = await queries
    .select({ id: whatIfRuns.id })
    .from(whatIfRuns)
    .where(
      and(
        inArray(whatIfRuns.state, ['waiting', 'running']),
        sql`not exists (select from pg_locks where locktype = 'advisory' and granted
          and classid = ${RUN_LOCK} and objid = ${whatIfRuns.id})`,
        sql`not exists (select from pgboss.job where name = ${queue} and state in ('created', 'retry')
          and data->>'runId' = ${whatIfRuns.id}::text)`,
      ),
    )
  return rows.map((row) => row.id)
}

export async function countOpenRuns(queries: Queries, who: string): Promise<number> {
  return queries.$count(
    whatIfRuns,
    and(eq(whatIfRuns.askedBy, who), inArray(whatIfRuns.state, ['waiting', 'running'])),
  )
}

/** Notes how far a run is; false where it is to go no further. */
export async function noteProgress(queries: Queries, runId: number, done: number): Promise<boolean> {
  const rows = await queries
    .update(whatIfRuns)
    .set({ state: 'running', tried: done })
    .where(and(eq(whatIfRuns.id, runId), inArray(whatIfRuns.state, ['waiting', 'running'])))
    .returning({ id: whatIfRuns.id })
  return rows.length > 0
}

/** Ends a run that is still open; false where it has ended already. */
export async function endRun(
  queries: Queries,
  runId: number,
  how: 'done' | 'stopped' | 'failed',
  at: Date,
  outcome?: { readonly result: readonly RunRow[]; readonly tried: number },
): Promise<boolean> {
  const rows = await queries
    .update(whatIfRuns)
    .set({ state: how, finishedAt: at, result: null, ...outcome })
    .where(and(eq(whatIfRuns.id, runId), inArray(whatIfRuns.state, ['waiting', 'running'])))
    .returning({ id: whatIfRuns.id })
  return rows.length > 0
}
