import type { DeviceId } from '#core/schema'
import { and, asc, count, eq, inArray, max, notExists, sql } from 'drizzle-orm'
import type { AdoptionEvent } from '#core/adopt'
import type { SerialKind } from '#core/queries'
import { adoptionEvents, claims, sites } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export async function claimsOf(queries: Queries, siteId: number) {
  return queries.select().from(claims).where(eq(claims.siteId, siteId)).orderBy(asc(claims.id))
}

export async function claimOfSerial(queries: Queries, serial: string) {
  const [found] = await queries
    .select({ claim: claims, slug: sites.slug })
    .from(claims)
    .innerJoin(sites, eq(sites.id, claims.siteId))
    .where(eq(claims.serial, serial))
  return found ?? null
}

export interface NewClaim {
  readonly siteId: number
  readonly deviceId: DeviceId
  readonly serial: string
  readonly kind: SerialKind
  readonly claimedAt: Date
  readonly claimedBy: string
}

/** False where the serial or the device is claimed already. */
export async function addClaim(queries: Queries, claim: NewClaim): Promise<boolean> {
  return (
    (await queries.insert(claims).values(claim).onConflictDoNothing().returning({ id: claims.id })).length > 0
  )
}

export async function removeClaim(queries: Queries, siteId: number, serial: string): Promise<boolean> {
  return (
    (
      await queries
        .delete(claims)
        .where(and(eq(claims.siteId, siteId), eq(claims.serial, serial)))
        .returning({ id: claims.id })
    ).length > 0
  )
}

export async function addEvent(
  queries: Queries,
  serial: string,
  model: string,
  event: AdoptionEvent,
): Promise<void> {
  await queries.insert(adoptionEvents).values({ serial, model, event, at: new Date(event.atMs) })
}

/** Changes whenever a claim is made or released, or something is heard of any serial. */
export async function rosterMark(queries: Queries): Promise<string> {
  const [claimed] = await queries
    .select({
      claims: count(),
      newest: max(claims.id),
      heard: sql<number>`(select max(id) from ${adoptionEvents})`,
    })
    .from(claims)
  return Object.values(claimed ?? {}).join(' ')
}

/** Events of the serials claimed for a site. */
export async function eventsOfSite(queries: Queries, siteId: number) {
  const held = queries.select({ serial: claims.serial }).from(claims).where(eq(claims.siteId, siteId))
  return queries
    .select()
    .from(adoptionEvents)
    .where(inArray(adoptionEvents.serial, held))
    .orderBy(asc(adoptionEvents.id))
}

/** Events of serials that nobody has claimed for any site. */
export async function eventsOfStrangers(queries: Queries) {
  const claimed = queries
    .select({ id: claims.id })
    .from(claims)
    .where(eq(claims.serial, adoptionEvents.serial))
  return queries.select().from(adoptionEvents).where(notExists(claimed)).orderBy(asc(adoptionEvents.id))
}
