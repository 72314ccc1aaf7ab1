import { and, eq, gt, isNull } from 'drizzle-orm'
import { authorities, claims, deviceKeys, sites } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type DeviceKey = typeof deviceKeys.$inferSelect
export type Purpose = (typeof authorities.$inferSelect)['purpose']

export async function deviceKeyOf(queries: Queries, serial: string): Promise<DeviceKey | null> {
  const [row] = await queries.select().from(deviceKeys).where(eq(deviceKeys.serial, serial))
  return row ?? null
}

/** Those of a site's claims. */
export const deviceKeysOf = async (queries: Queries, siteId: number): Promise<DeviceKey[]> =>
  (
    await queries
      .select({ key: deviceKeys })
      .from(deviceKeys)
      .innerJoin(claims, eq(claims.serial, deviceKeys.serial))
      .where(eq(claims.siteId, siteId))
  ).map(({ key }) => key)

/** In place of whatever was known of a claimed device. */
export async function setDeviceKey(queries: Queries, key: DeviceKey): Promise<void> {
  await queries.insert(deviceKeys).values(key).onConflictDoUpdate({ target: deviceKeys.serial, set: key })
}

/** Binds a device to a key by its secret: of two who come with one at once, one is told no. */
export async function bindKey(
  queries: Queries,
  {
    serial,
    secretHash,
    keyHash,
    at,
  }: Record<'serial' | 'secretHash' | 'keyHash', string> & { readonly at: Date },
): Promise<boolean> {
  const bound = await queries
    .update(deviceKeys)
    .set({ keyHash, boundAt: at, secretHash: null, expiresAt: null })
    .where(
      and(
        eq(deviceKeys.serial, serial),
        eq(deviceKeys.secretHash, secretHash),
        gt(deviceKeys.expiresAt, at),
        isNull(deviceKeys.keyHash),
        isNull(deviceKeys.revokedAt),
      ),
    )
    .returning({ serial: deviceKeys.serial })
  return bound.length > 0
}

/** Whether a serial is claimed at a site. */
export async function isClaimedAt(queries: Queries, slug: string, serial: string): Promise<boolean> {
  const rows = await queries
    .select({ id: claims.id })
    .from(claims)
    .innerJoin(sites, eq(sites.id, claims.siteId))
    .where(and(eq(claims.serial, serial), eq(sites.slug, slug)))
  return rows.length > 0
}

export async function authorityFor(queries: Queries, purpose: Purpose) {
  const [row] = await queries.select().from(authorities).where(eq(authorities.purpose, purpose))
  return row ?? null
}

/** Keeps who signs; of two processes that make one at once, the first one's holds. */
export async function keepAuthority(
  queries: Queries,
  authority: typeof authorities.$inferSelect,
): Promise<void> {
  await queries.insert(authorities).values(authority).onConflictDoNothing()
}
