import { and, asc, eq, gt } from 'drizzle-orm'
import type { StepRecord } from '#contracts/api'
import { stepRecords } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type NewStepRecord = Omit<typeof stepRecords.$inferInsert, 'id'>

type Row = typeof stepRecords.$inferSelect
const shown = ({ siteId: _siteId, receivedAt: _receivedAt, key: _key, ...row }: Row): StepRecord => ({
  ...row,
  state: row.state as StepRecord['state'],
  at: row.at.toISOString(),
})

/**
 * Records of a site, in the order in which they came.
 * @param after those with a larger id alone
 */
export async function stepRecordsOf(queries: Queries, siteId: number, after: number): Promise<StepRecord[]> {
  const rows = await queries
    .select()
    .from(stepRecords)
    .where(and(eq(stepRecords.siteId, siteId), gt(stepRecords.id, after)))
    .orderBy(asc(stepRecords.id))
  return rows.map(shown)
}

export const countStepRecords = (queries: Queries, siteId: number): Promise<number> =>
  queries.$count(stepRecords, eq(stepRecords.siteId, siteId))

/** Keeps a record, and says what is kept: one whose key is there already is the same, sent again. */
export async function addStepRecord(
  queries: Queries,
  record: NewStepRecord & { readonly key: string },
): Promise<StepRecord[]> {
  await queries.insert(stepRecords).values(record).onConflictDoNothing()
  const { siteId, key } = record
  const kept = await queries
    .select()
    .from(stepRecords)
    .where(and(eq(stepRecords.siteId, siteId), eq(stepRecords.key, key)))
  return kept.map(shown)
}
