import { desc, eq, max } from 'drizzle-orm'
import type { ProofResult } from '#contracts/api'
import { testResults } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

/** A result as it was recorded. */
export type KeptResult = Omit<ProofResult, 'contradicted'>

/** The newest result of each test of a site. */
export async function newestResults(queries: Queries, siteId: number): Promise<KeptResult[]> {
  const rows = await queries
    .selectDistinctOn([testResults.testId])
    .from(testResults)
    .where(eq(testResults.siteId, siteId))
    .orderBy(testResults.testId, desc(testResults.id))
  return rows.map(({ id: _id, siteId: _site, key: _key, at, ...rest }) => ({ ...rest, at: at.toISOString() }))
}

/** Grows with each result that is kept for a site. */
export async function newestResultId(queries: Queries, siteId: number): Promise<number> {
  const [row] = await queries
    .select({ id: max(testResults.id) })
    .from(testResults)
    .where(eq(testResults.siteId, siteId))
  return row?.id ?? 0
}

export type NewResult = Omit<typeof testResults.$inferInsert, 'id'>

/** Keeps results; one whose key is there already is the same, sent again. */
export async function addResults(queries: Queries, results: readonly NewResult[]): Promise<void> {
  if (results.length > 0)
    await queries
      .insert(testResults)
      .values([...results])
      .onConflictDoNothing()
}
