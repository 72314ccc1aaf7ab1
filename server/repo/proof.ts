import { desc, eq, max } from 'drizzle-orm'
import type { ProofResult } from '#contracts/api'
import { testResults } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

/** The newest result of each test of a site. */
export async function newestResults(q: Queries, siteId: number): Promise<ProofResult[]> {
  const rows = await q
    .selectDistinctOn([testResults.testId])
    .from(testResults)
    .where(eq(testResults.siteId, siteId))
    .orderBy(testResults.testId, desc(testResults.id))
  return rows.map(({ id: _id, siteId: _site, at, ...rest }) => ({ ...rest, at: at.toISOString() }))
}

/** Grows with each result that is kept for a site. */
export async function newestResultId(q: Queries, siteId: number): Promise<number> {
  const [row] = await q
    .select({ id: max(testResults.id) })
    .from(testResults)
    .where(eq(testResults.siteId, siteId))
  return row?.id ?? 0
}

export type NewResult = Omit<typeof testResults.$inferInsert, 'id'>

export async function addResults(q: Queries, results: readonly NewResult[]): Promise<void> {
  if (results.length > 0) await q.insert(testResults).values([...results])
}
