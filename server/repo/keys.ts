import { and, asc, eq } from 'drizzle-orm'
import type { TunnelKey } from '#contracts/api'
import { tunnelKeys } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export async function keysOf(q: Queries, siteId: number): Promise<TunnelKey[]> {
  const rows = await q.select().from(tunnelKeys).where(eq(tunnelKeys.siteId, siteId)).orderBy(asc(tunnelKeys.owner))
  return rows.map(({ owner, publicKey, madeAt, madeBy, shownAt, shownBy }) => ({ owner, publicKey, madeAt: madeAt.toISOString(), madeBy, shownAt: shownAt?.toISOString() ?? null, shownBy }))
}

export async function keyOf(q: Queries, siteId: number, owner: string) {
  const [row] = await q.select().from(tunnelKeys).where(and(eq(tunnelKeys.siteId, siteId), eq(tunnelKeys.owner, owner)))
  return row ?? null
}

/** Keeps a pair of keys in the place of an older one. */
export async function keepKey(q: Queries, row: typeof tunnelKeys.$inferInsert): Promise<void> {
  const fresh = { ...row, shownAt: null, shownBy: null }
  await q.insert(tunnelKeys).values(fresh).onConflictDoUpdate({ target: [tunnelKeys.siteId, tunnelKeys.owner], set: fresh })
}

export async function noteShown(q: Queries, siteId: number, owner: string, at: Date, who: string): Promise<void> {
  await q.update(tunnelKeys).set({ shownAt: at, shownBy: who }).where(and(eq(tunnelKeys.siteId, siteId), eq(tunnelKeys.owner, owner)))
}
