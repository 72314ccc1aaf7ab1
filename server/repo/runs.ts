import { and, desc, eq, inArray, isNull } from 'drizzle-orm'
import type { RunLine, RunRow } from '#contracts/api'
import { sites, whatIfRuns } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

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
  return row && { siteId: row.siteId, slug: row.slug, result: row.result, line: lineOf(row) }
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
