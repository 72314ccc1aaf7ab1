import { and, asc, eq, notInArray } from 'drizzle-orm'
import type { RadioLevel } from '#contracts/api'
import { labAims, radioLevels } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type LevelRow = typeof radioLevels.$inferInsert
export type AimRow = typeof labAims.$inferInsert

export async function levelsOf(queries: Queries, siteId: number): Promise<RadioLevel[]> {
  const rows = await queries
    .select()
    .from(radioLevels)
    .where(eq(radioLevels.siteId, siteId))
    .orderBy(asc(radioLevels.linkId), asc(radioLevels.end))
  return rows.map(({ siteId: _site, at, end, ...rest }) => ({
    ...rest,
    end: end === 'a' ? 'a' : 'b',
    at: at.toISOString(),
  }))
}

/** Keeps what ends read now, in place of what they read before. */
export async function keepLevels(queries: Queries, rows: readonly LevelRow[]): Promise<void> {
  for (const row of rows)
    await queries
      .insert(radioLevels)
      .values(row)
      .onConflictDoUpdate({ target: [radioLevels.siteId, radioLevels.linkId, radioLevels.end], set: row })
}

/** Forgets what both ends of a link read. */
export async function dropLevels(queries: Queries, siteId: number, linkId: string): Promise<void> {
  await queries.delete(radioLevels).where(and(eq(radioLevels.siteId, siteId), eq(radioLevels.linkId, linkId)))
}

/** Forgets what links read that the plan has no more. */
export async function forgetLevels(queries: Queries, siteId: number, kept: readonly string[]): Promise<void> {
  for (const table of [radioLevels, labAims]) {
    const ofSite = eq(table.siteId, siteId)
    const isGone = kept.length > 0 ? notInArray(table.linkId, [...kept]) : undefined
    await queries.delete(table).where(and(ofSite, isGone))
  }
}

export const aimsOf = (queries: Queries, siteId: number, linkId: string) =>
  queries
    .select()
    .from(labAims)
    .where(and(eq(labAims.siteId, siteId), eq(labAims.linkId, linkId)))

export async function keepAim(queries: Queries, row: AimRow): Promise<void> {
  await queries
    .insert(labAims)
    .values(row)
    .onConflictDoUpdate({ target: [labAims.siteId, labAims.linkId, labAims.end], set: row })
}
