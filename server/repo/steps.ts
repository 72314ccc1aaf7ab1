import { asc, count, eq } from 'drizzle-orm'
import type { StepRecord } from '#contracts/api'
import { stepRecords } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type NewStepRecord = Omit<typeof stepRecords.$inferInsert, 'id'>

/** Every record of a site, in the order in which they came. */
export async function stepRecordsOf(queries: Queries, siteId: number): Promise<StepRecord[]> {
  const rows = await queries
    .select()
    .from(stepRecords)
    .where(eq(stepRecords.siteId, siteId))
    .orderBy(asc(stepRecords.id))
  return rows.map(({ id, activityId, state, at, who, reading, note, person }) => ({
    id,
    activityId,
    state: state as StepRecord['state'],
    at: at.toISOString(),
    who,
    reading,
    note,
    person,
  }))
}

export async function countStepRecords(queries: Queries, siteId: number): Promise<number> {
  const [kept] = await queries
    .select({ records: count() })
    .from(stepRecords)
    .where(eq(stepRecords.siteId, siteId))
  return kept?.records ?? 0
}

/** Keeps a record; one whose key is there already is the same, sent again. */
export async function addStepRecord(queries: Queries, record: NewStepRecord): Promise<void> {
  await queries.insert(stepRecords).values(record).onConflictDoNothing()
}
