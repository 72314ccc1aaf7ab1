import { and, asc, count, eq, gt } from 'drizzle-orm'
import type { StepRecord } from '#contracts/api'
import { stepRecords } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type NewStepRecord = Omit<typeof stepRecords.$inferInsert, 'id'>

type Row = typeof stepRecords.$inferSelect
const shown = ({
  id,
  activityId,
  state,
  at,
  who,
  reading,
  note,
  person,
  knows,
  values,
}: Row): StepRecord => ({
  id,
  activityId,
  state: state as StepRecord['state'],
  at: at.toISOString(),
  who,
  reading,
  note,
  person,
  knows,
  values,
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

export async function countStepRecords(queries: Queries, siteId: number): Promise<number> {
  const [kept] = await queries
    .select({ records: count() })
    .from(stepRecords)
    .where(eq(stepRecords.siteId, siteId))
  return kept?.records ?? 0
}

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
