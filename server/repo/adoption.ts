import { and, asc, count, eq, inArray, max, notExists, sql } from 'drizzle-orm'
import type { AdoptionEvent } from '#core/adopt'
import type { SerialKind } from '#core/model'
import { adoptionEvents, claims, sites } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export async function claimsOf(q: Queries, siteId: number) {
  return q.select().from(claims).where(eq(claims.siteId, siteId)).orderBy(asc(claims.id))
}

export async function claimOfSerial(q: Queries, serial: string) {
  const [found] = await q
    .select({ claim: claims, slug: sites.slug })
    .from(claims)
    .innerJoin(sites, eq(sites.id, claims.siteId))
    .where(eq(claims.serial, serial))
  return found ?? null
}

export interface NewClaim {
  readonly siteId: number
  readonly deviceId: string
  readonly serial: string
  readonly kind: SerialKind
  readonly claimedAt: Date
  readonly claimedBy: string
}

/** False where the serial or the device is claimed already. */
export async function addClaim(q: Queries, claim: NewClaim): Promise<boolean> {
  return (await q.insert(claims).values(claim).onConflictDoNothing().returning({ id: claims.id })).length > 0
}

export async function removeClaim(q: Queries, siteId: number, serial: string): Promise<boolean> {
  return (
    (
      await q
        .delete(claims)
        .where(and(eq(claims.siteId, siteId), eq(claims.serial, serial)))
        .returning({ id: claims.id })
    ).length > 0
  )
}

export async function addEvent(
  q: Queries,
  serial: string,
  model: string,
  event: AdoptionEvent,
): Promise<void> {
  await q.insert(adoptionEvents).values({ serial, model, event, at: new Date(event.atMs) })
}

/** Changes whenever a claim is made or released, or something is heard of any serial. */
export async function rosterMark(q: Queries): Promise<string> {
  const [claimed] = await q
    .select({
      claims: count(),
      newest: max(claims.id),
      heard: sql<number>`(select max(id) from ${adoptionEvents})`,
    })
    .from(claims)
  return Object.values(claimed ?? {}).join(' ')
}

/** Events of the serials claimed for a site. */
export async function eventsOfSite(q: Queries, siteId: number) {
  const held = q.select({ serial: claims.serial }).from(claims).where(eq(claims.siteId, siteId))
  return q
    .select()
    .from(adoptionEvents)
    .where(inArray(adoptionEvents.serial, held))
    .orderBy(asc(adoptionEvents.id))
}

/** Events of serials that nobody has claimed for any site. */
export async function eventsOfStrangers(q: Queries) {
  const claimed = q.select({ id: claims.id }).from(claims).where(eq(claims.serial, adoptionEvents.serial))
  return q.select().from(adoptionEvents).where(notExists(claimed)).orderBy(asc(adoptionEvents.id))
}
