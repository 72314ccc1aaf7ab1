import { and, asc, desc, eq, gt, inArray, isNotNull, isNull, lt, lte, sql, type SQL } from 'drizzle-orm'
import type { DeletedSite, PatchOp, RevisionLine } from '#contracts/api'
import { PLAN_VERSION } from '#core/format'
import type { Plan } from '#core/schema'
import {
  adoptionEvents,
  claims,
  planRevisions,
  plans,
  siteDigests,
  sites,
  testResults,
} from '#server/db/schema'
import type { Queries } from '#server/platform/database'
import { organisationNow, scopeNow } from '#server/platform/scope'

/** Sites of the organisation that is asked for; the server itself sees them all. */
function mine(): SQL | undefined {
  const scope = scopeNow()
  return scope === 'all' ? undefined : eq(sites.organisationId, scope)
}
/** A site that was deleted is one for nobody but who restores it. */
const isThere = isNull(sites.deletedAt)
const withSlug = (slug: string) => and(eq(sites.slug, slug), isThere, mine())
/** A site that was deleted, to whoever may restore it. */
const deletedWithSlug = (slug: string) => and(eq(sites.slug, slug), isNotNull(sites.deletedAt), mine())

export type SiteRow = Awaited<ReturnType<typeof sitesAfter>>[number]

/** Which sites are read: those that follow a slug. */
export interface SitePage {
  readonly after: string
  readonly most: number
  /** Slugs of the only ones that may be; null for all. */
  readonly among: readonly string[] | null
}

/** The sites of a page alone: what is known of them is looked up for no others. */
const pageOf = (queries: Queries, { after, most, among }: SitePage) =>
  queries
    .select({ id: sites.id, slug: sites.slug, name: sites.name, archivedAt: sites.archivedAt })
    .from(sites)
    .where(and(gt(sites.slug, after), among ? inArray(sites.slug, [...among]) : undefined, isThere, mine()))
    .orderBy(asc(sites.slug))
    .limit(most)
    .as('page')

/** Sites by their slugs, with what is known of how each stands. */
export function sitesAfter(queries: Queries, which: SitePage) {
  const page = pageOf(queries, which)
  return queries
    .select({
      siteId: page.id,
      slug: page.slug,
      name: page.name,
      archivedAt: page.archivedAt,
      revision: plans.revision,
      savedAt: plans.savedAt,
      author: plans.author,
      mark: siteDigests.mark,
      digest: siteDigests.digest,
      resultId: sql<number>`coalesce((select max(id) from ${testResults}
        where ${testResults.siteId} = ${page.id}), 0)`.mapWith(Number),
      /** Claimed devices that have taken their configuration since they were claimed (RFC 8572, 5.6). */
      adopted: sql<number>`(select count(*) from ${claims} where ${claims.siteId} = ${page.id} and exists (
        select from ${adoptionEvents} where ${adoptionEvents.serial} = ${claims.serial}
          and ${adoptionEvents.at} >= ${claims.claimedAt}
          and ${adoptionEvents.event} ->> 'type' = 'bootstrap-complete'))`.mapWith(Number),
    })
    .from(page)
    .innerJoin(plans, eq(plans.siteId, page.id))
    .leftJoin(siteDigests, eq(siteDigests.siteId, page.id))
    .orderBy(asc(page.slug))
}

export async function archiveSite(queries: Queries, siteId: number, archivedAt: Date | null): Promise<void> {
  await queries.update(sites).set({ archivedAt }).where(eq(sites.id, siteId))
}

export async function deleteSite(queries: Queries, siteId: number, at: Date, by: string): Promise<void> {
  await queries.update(sites).set({ deletedAt: at, deletedBy: by }).where(eq(sites.id, siteId))
}

/** Latest first. */
export async function deletedSites(queries: Queries): Promise<DeletedSite[]> {
  const rows = await queries
    .select()
    .from(sites)
    .where(and(isNotNull(sites.deletedAt), mine()))
    .orderBy(desc(sites.deletedAt))
  return rows.flatMap(({ slug, name, deletedAt, deletedBy }) =>
    deletedAt ? [{ slug, name, deletedAt: deletedAt.toISOString(), deletedBy }] : [],
  )
}

/** Null where no site of that name was deleted. */
export async function restoreSite(queries: Queries, slug: string): Promise<string | null> {
  const [site] = await queries
    .update(sites)
    .set({ deletedAt: null, deletedBy: '' })
    .where(deletedWithSlug(slug))
    .returning({ name: sites.name })
  return site?.name ?? null
}

/** Removes for good, with all that belongs to it; false where no site of that name was deleted. */
export async function purgeSite(queries: Queries, slug: string): Promise<boolean> {
  const purged = await queries.delete(sites).where(deletedWithSlug(slug)).returning({ id: sites.id })
  return purged.length > 0
}

/** Removes for good what was deleted before a time. */
export async function purgeSites(queries: Queries, before: Date): Promise<void> {
  await queries.delete(sites).where(lt(sites.deletedAt, before))
}

/** What of a plan the rest of the fleet has to know; of an older version all of it, to be brought up to date. */
const addressing = sql<Plan>`case when (${plans.document} ->> 'version')::int < ${PLAN_VERSION}
  then ${plans.document}
  else jsonb_build_object(
    'version', ${plans.document} -> 'version',
    'site', ${plans.document} -> 'site',
    'networks', (select coalesce(jsonb_agg(jsonb_build_object('name', n -> 'name', 'subnet', n -> 'subnet')), '[]')
      from jsonb_array_elements(${plans.document} -> 'networks') as n),
    'brief', jsonb_build_object('far', ${plans.document} -> 'brief' -> 'far')) end`

/** Addresses of every site's newest plan: thousands of whole plans are more than anybody waits for. */
export const allAddressing = (queries: Queries) =>
  queries
    .select({ slug: sites.slug, document: addressing })
    .from(sites)
    .innerJoin(plans, eq(plans.siteId, sites.id))
    .where(and(isThere, mine()))
    .orderBy(asc(sites.id))

export async function siteWithSlug(queries: Queries, slug: string) {
  const [site] = await queries.select().from(sites).where(withSlug(slug))
  return site ?? null
}

/**
 * Holds a site until the transaction ends: what is added to it gets its ids in the order in which it can be read, so
 * that whoever reads on from the last id misses nothing.
 */
export async function holdSite(queries: Queries, siteId: number): Promise<void> {
  await queries.select({ id: sites.id }).from(sites).where(eq(sites.id, siteId)).for('no key update')
}

/** Null where the slug is taken. */
export async function addSite(queries: Queries, slug: string, name: string): Promise<number | null> {
  const [made] = await queries
    .insert(sites)
    .values({ organisationId: organisationNow(), slug, name })
    .onConflictDoNothing()
    .returning({ id: sites.id })
  return made?.id ?? null
}

export async function renameSite(queries: Queries, siteId: number, name: string): Promise<void> {
  await queries.update(sites).set({ name }).where(eq(sites.id, siteId))
}

/** Which revision of a site's plan is the newest, without the plan itself. */
export async function newestRevision(queries: Queries, slug: string) {
  const [row] = await queries
    .select({ siteId: sites.id, revision: plans.revision, savedAt: plans.savedAt, author: plans.author })
    .from(sites)
    .innerJoin(plans, eq(plans.siteId, sites.id))
    .where(withSlug(slug))
  return row ?? null
}

export async function planOf(queries: Queries, siteId: number) {
  const [plan] = await queries.select().from(plans).where(eq(plans.siteId, siteId))
  return plan ?? null
}

/** The plan, held until the transaction ends, so that of two saves one comes first. */
export async function planForChange(queries: Queries, siteId: number) {
  const [plan] = await queries.select().from(plans).where(eq(plans.siteId, siteId)).for('update')
  return plan ?? null
}

export interface NewRevision {
  readonly siteId: number
  readonly revision: number
  readonly at: Date
  readonly author: string
  readonly words: string
  readonly patch: readonly PatchOp[]
  readonly snapshot: Plan | null
}

export async function storeRevision(queries: Queries, entry: NewRevision, document: Plan): Promise<void> {
  const row = { revision: entry.revision, document, savedAt: entry.at, author: entry.author }
  await queries
    .insert(plans)
    .values({ siteId: entry.siteId, ...row })
    .onConflictDoUpdate({ target: plans.siteId, set: row })
  await queries.insert(planRevisions).values(entry)
}

/** Newest first. */
export async function revisionLines(queries: Queries, siteId: number, most: number): Promise<RevisionLine[]> {
  const rows = await queries
    .select({
      revision: planRevisions.revision,
      at: planRevisions.at,
      author: planRevisions.author,
      words: planRevisions.words,
    })
    .from(planRevisions)
    .where(eq(planRevisions.siteId, siteId))
    .orderBy(desc(planRevisions.revision))
    .limit(most)
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }))
}

/** The last whole document at or before a revision, and the patches from there up to it. */
export async function snapshotAndPatches(queries: Queries, siteId: number, revision: number) {
  const here = eq(planRevisions.siteId, siteId)
  const [start] = await queries
    .select()
    .from(planRevisions)
    .where(and(here, lte(planRevisions.revision, revision), isNotNull(planRevisions.snapshot)))
    .orderBy(desc(planRevisions.revision))
    .limit(1)
  if (!start?.snapshot) return null
  const rest = await queries
    .select()
    .from(planRevisions)
    .where(and(here, gt(planRevisions.revision, start.revision), lte(planRevisions.revision, revision)))
    .orderBy(asc(planRevisions.revision))
  const last = rest.at(-1) ?? start
  return last.revision === revision
    ? { snapshot: start.snapshot, patches: rest.map((r) => r.patch), line: last }
    : null
}
