import type { DeviceId } from '#core/schema'
import { and, asc, count, desc, eq, exists, gte, inArray, max, ne, notExists, or, sql } from 'drizzle-orm'
import type { AdoptionEvent } from '#core/adopt'
import type { SerialKind } from '#core/queries'
import {
  adoptionEvents,
  claims,
  deviceKeys,
  labDevices,
  organisations,
  pastClaims,
  sites,
} from '#server/db/schema'
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

export interface Release {
  readonly siteId: number
  readonly serial: string
  readonly releasedAt: Date
  readonly releasedBy: string
}

/** Ends a claim and keeps that there was one; the device that it was for, or null where there is none. */
export async function endClaim(queries: Queries, release: Release): Promise<DeviceId | null> {
  const { siteId, serial, releasedAt, releasedBy } = release
  const [ended] = await queries
    .delete(claims)
    .where(and(eq(claims.siteId, siteId), eq(claims.serial, serial)))
    .returning()
  if (!ended) return null
  const { deviceId, claimedAt } = ended
  await queries.insert(pastClaims).values({ siteId, deviceId, serial, claimedAt, releasedAt, releasedBy })
  return deviceId as DeviceId
}

/** Claims that are told of a site's past. */
const MOST_PAST = 1000

/** The newest claims of a site that were given up, oldest first. */
export async function pastClaimsOf(queries: Queries, siteId: number) {
  const newest = await queries
    .select()
    .from(pastClaims)
    .where(eq(pastClaims.siteId, siteId))
    .orderBy(desc(pastClaims.id))
    .limit(MOST_PAST)
  return newest.reverse()
}

export async function addEvent(
  queries: Queries,
  serial: string,
  model: string,
  event: AdoptionEvent,
): Promise<void> {
  await queries.insert(adoptionEvents).values({ serial, model, event, at: new Date(event.atMs) })
}

/**
 * Changes whenever a claim is made or given up, or something is heard of any serial.
 * @param at when it is asked: a secret that nobody came with expires by itself
 */
export async function rosterMark(queries: Queries, at: Date): Promise<string> {
  const [claimed] = await queries
    .select({
      claims: count(),
      newest: max(claims.id),
      released: sql<number>`(select max(id) from ${pastClaims})`,
      heard: sql<number>`(select max(id) from ${adoptionEvents})`,
      keys: sql<string>`(select concat_ws(' ', count(*), max(expires_at), max(bound_at), max(revoked_at),
        count(*) filter (where expires_at <= ${at.toISOString()})) from ${deviceKeys})`,
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

/**
 * Events of serials that nobody has claimed for any site, since they were last given up.
 * A stand-in is a stranger to the site alone on whose shelf it stands. Where there are several organisations, a box is
 * told of to a site alone that knows it: from its shelf, or because it served there.
 */
export async function eventsOfStrangers(queries: Queries, siteId: number) {
  const claimed = queries
    .select({ id: claims.id })
    .from(claims)
    .where(eq(claims.serial, adoptionEvents.serial))
  const releasedSince = queries
    .select({ id: pastClaims.id })
    .from(pastClaims)
    .where(and(eq(pastClaims.serial, adoptionEvents.serial), gte(pastClaims.releasedAt, adoptionEvents.at)))
  const ofAnotherShelf = queries
    .select({ serial: labDevices.serial })
    .from(labDevices)
    .where(and(eq(labDevices.serial, adoptionEvents.serial), ne(labDevices.siteId, siteId)))
  const onShelf = queries
    .select({ serial: labDevices.serial })
    .from(labDevices)
    .where(and(eq(labDevices.serial, adoptionEvents.serial), eq(labDevices.siteId, siteId)))
  const servedHere = queries
    .select({ id: pastClaims.id })
    .from(pastClaims)
    .where(and(eq(pastClaims.serial, adoptionEvents.serial), eq(pastClaims.siteId, siteId)))
  const isOnly = eq(queries.$count(organisations), 1)
  return queries
    .select()
    .from(adoptionEvents)
    .where(
      and(
        notExists(claimed),
        notExists(releasedSince),
        notExists(ofAnotherShelf),
        or(isOnly, exists(onShelf), exists(servedHere)),
      ),
    )
    .orderBy(asc(adoptionEvents.id))
}
