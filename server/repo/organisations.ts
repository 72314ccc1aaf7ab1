import { asc, eq, gt, and, sql } from 'drizzle-orm'
import type { OrganisationLine } from '#contracts/accounts'
import { organisations, people, siteRoles, sites, siteTransfers, templates } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

/** Null where the name is taken. */
export async function addOrganisation(queries: Queries, name: string): Promise<number | null> {
  const [made] = await queries
    .insert(organisations)
    .values({ name })
    .onConflictDoNothing()
    .returning({ id: organisations.id })
  return made?.id ?? null
}

/** Whether another has the name. */
export async function hasName(queries: Queries, name: string, but: number): Promise<boolean> {
  const [other] = await queries
    .select({ id: organisations.id })
    .from(organisations)
    .where(and(eq(sql`lower(${organisations.name})`, name.toLowerCase()), sql`${organisations.id} <> ${but}`))
  return other !== undefined
}

export async function changeOrganisation(
  queries: Queries,
  id: number,
  change: { readonly name: string; readonly needsFactor: boolean },
): Promise<void> {
  await queries.update(organisations).set(change).where(eq(organisations.id, id))
}

/** By name, with how much is in each; deleted sites count for as long as they can be restored. */
export async function allOrganisations(queries: Queries): Promise<OrganisationLine[]> {
  const rows = await queries
    .select({
      id: organisations.id,
      name: organisations.name,
      addedAt: organisations.addedAt,
      people: queries.$count(people, eq(people.organisationId, organisations.id)),
      sites: queries.$count(sites, eq(sites.organisationId, organisations.id)),
    })
    .from(organisations)
    .orderBy(asc(sql`lower(${organisations.name})`))
  return rows.map((row) => ({ ...row, addedAt: row.addedAt.toISOString() }))
}

/** Removes an organisation that has no site, with its people and templates. */
export async function removeOrganisation(queries: Queries, id: number): Promise<void> {
  await queries.delete(templates).where(eq(templates.organisationId, id))
  await queries.delete(people).where(eq(people.organisationId, id))
  await queries.delete(organisations).where(eq(organisations.id, id))
}

/** One code a site: an older one stops working. */
export async function offerSite(queries: Queries, offer: typeof siteTransfers.$inferInsert): Promise<void> {
  await queries
    .insert(siteTransfers)
    .values(offer)
    .onConflictDoUpdate({ target: siteTransfers.siteId, set: offer })
}

/** Uses a code up; the site that it is for, or null where it is unknown, was used, or is too old. */
export async function useOffer(queries: Queries, codeHash: string, at: Date): Promise<number | null> {
  const [offer] = await queries
    .delete(siteTransfers)
    .where(and(eq(siteTransfers.codeHash, codeHash), gt(siteTransfers.expiresAt, at)))
    .returning({ siteId: siteTransfers.siteId })
  return offer?.siteId ?? null
}

/** Gives a site to another organisation; nobody's role at it goes along. Null where it was deleted meanwhile. */
export async function moveSite(queries: Queries, siteId: number, organisationId: number) {
  await queries.delete(siteRoles).where(eq(siteRoles.siteId, siteId))
  const [site] = await queries
    .update(sites)
    .set({ organisationId })
    .where(and(eq(sites.id, siteId), sql`${sites.deletedAt} is null`))
    .returning({ slug: sites.slug, name: sites.name })
  return site ?? null
}
