import { and, asc, count, eq } from 'drizzle-orm'
import type { Tick } from '#contracts/api'
import { ticks } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export async function ticksOf(queries: Queries, siteId: number): Promise<Tick[]> {
  const rows = await queries.select().from(ticks).where(eq(ticks.siteId, siteId)).orderBy(asc(ticks.item))
  return rows.map(({ siteId: _site, at, ...rest }) => ({ ...rest, at: at.toISOString() }))
}

export async function countTicks(queries: Queries, siteId: number): Promise<number> {
  const [kept] = await queries.select({ ticks: count() }).from(ticks).where(eq(ticks.siteId, siteId))
  return kept?.ticks ?? 0
}

/** The first who ticks an item keeps it. */
export async function addTick(queries: Queries, row: typeof ticks.$inferInsert): Promise<void> {
  await queries.insert(ticks).values(row).onConflictDoNothing()
}

export async function removeTick(queries: Queries, siteId: number, item: string): Promise<void> {
  await queries.delete(ticks).where(and(eq(ticks.siteId, siteId), eq(ticks.item, item)))
}
