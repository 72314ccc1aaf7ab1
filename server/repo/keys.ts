import { and, asc, eq, notInArray } from 'drizzle-orm'
import type { TunnelKey } from '#contracts/api'
import { tunnelKeys } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export async function keysOf(queries: Queries, siteId: number): Promise<TunnelKey[]> {
  const rows = await queries
    .select()
    .from(tunnelKeys)
    .where(eq(tunnelKeys.siteId, siteId))
    .orderBy(asc(tunnelKeys.owner))
  return rows.map(({ owner, publicKey, madeAt, madeBy, shownAt, shownBy }) => ({
    owner,
    publicKey,
    madeAt: madeAt.toISOString(),
    madeBy,
    shownAt: shownAt?.toISOString() ?? null,
    shownBy,
  }))
}

export async function keyNamed(queries: Queries, siteId: number, publicKey: string) {
  const [row] = await queries
    .select()
    .from(tunnelKeys)
    .where(and(eq(tunnelKeys.siteId, siteId), eq(tunnelKeys.publicKey, publicKey)))
  return row ?? null
}

/** Keeps a pair of keys; of its owner's others only those that are still in use. */
export async function keepKey(
  queries: Queries,
  row: typeof tunnelKeys.$inferInsert,
  inUse: readonly string[],
): Promise<void> {
  const fresh = { ...row, shownAt: null, shownBy: null }
  await queries
    .delete(tunnelKeys)
    .where(
      and(
        eq(tunnelKeys.siteId, row.siteId),
        eq(tunnelKeys.owner, row.owner),
        notInArray(tunnelKeys.publicKey, [row.publicKey, ...inUse]),
      ),
    )
  await queries
    .insert(tunnelKeys)
    .values(fresh)
    .onConflictDoUpdate({ target: [tunnelKeys.siteId, tunnelKeys.publicKey], set: fresh })
}

export async function noteShown(
  queries: Queries,
  siteId: number,
  publicKey: string,
  at: Date,
  who: string,
): Promise<void> {
  await queries
    .update(tunnelKeys)
    .set({ shownAt: at, shownBy: who })
    .where(and(eq(tunnelKeys.siteId, siteId), eq(tunnelKeys.publicKey, publicKey)))
}
