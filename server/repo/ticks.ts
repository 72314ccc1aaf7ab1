import { and, asc, eq } from 'drizzle-orm'
import type { Tick } from '#contracts/api'
import { ticks } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export async function ticksOf(q: Queries, siteId: number): Promise<Tick[]> {
  const rows = await q.select().from(ticks).where(eq(ticks.siteId, siteId)).orderBy(asc(ticks.item))
  return rows.map(({ siteId: _site, at, ...rest }) => ({ ...rest, at: at.toISOString() }))
}

/** The first who ticks an item keeps it. */
export async function addTick(q: Queries, row: typeof ticks.$inferInsert): Promise<void> {
  await q.insert(ticks).values(row).onConflictDoNothing()
}

export async function removeTick(q: Queries, siteId: number, item: string): Promise<void> {
  await q.delete(ticks).where(and(eq(ticks.siteId, siteId), eq(ticks.item, item)))
}
