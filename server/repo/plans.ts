import { and, asc, desc, eq, gt, isNotNull, lte } from 'drizzle-orm'
import type { PatchOp, RevisionLine, SiteSummary } from '#contracts/api'
import type { Plan } from '#core/schema'
import { planRevisions, plans, sites } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export async function allSites(queries: Queries): Promise<SiteSummary[]> {
  return queries
    .select({ slug: sites.slug, name: sites.name, revision: plans.revision })
    .from(sites)
    .innerJoin(plans, eq(plans.siteId, sites.id))
    .orderBy(asc(sites.id))
}

/** Every site's newest plan. */
export async function allPlans(queries: Queries) {
  return queries
    .select({ slug: sites.slug, document: plans.document })
    .from(sites)
    .innerJoin(plans, eq(plans.siteId, sites.id))
    .orderBy(asc(sites.id))
}

export async function siteWithSlug(queries: Queries, slug: string) {
  const [site] = await queries.select().from(sites).where(eq(sites.slug, slug))
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
    .values({ slug, name })
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
    .where(eq(sites.slug, slug))
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
