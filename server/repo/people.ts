import { and, asc, count, eq, gt, inArray, isNotNull, isNull, lt, max, or, sql } from 'drizzle-orm'
import type { Role } from '#contracts/roles'
import {
  identities,
  oneTimeLinks,
  people,
  sessions,
  signInFailures,
  siteRoles,
  sites,
} from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type Person = typeof people.$inferSelect

export async function personNamed(queries: Queries, name: string): Promise<Person | null> {
  const [person] = await queries
    .select()
    .from(people)
    .where(eq(sql`lower(${people.name})`, name.toLowerCase()))
  return person ?? null
}

/** Somebody of an organisation, held until the transaction ends. */
export async function personWith(
  queries: Queries,
  organisationId: number,
  id: number,
): Promise<Person | null> {
  const [person] = await queries
    .select()
    .from(people)
    .where(and(eq(people.id, id), eq(people.organisationId, organisationId)))
    .for('update')
  return person ?? null
}

/** Everybody of an organisation by name, with when they were seen last. */
export const everybody = (queries: Queries, organisationId: number) =>
  queries
    .select({ person: people, seenAt: max(sessions.seenAt) })
    .from(people)
    .leftJoin(sessions, eq(sessions.personId, people.id))
    .where(eq(people.organisationId, organisationId))
    .groupBy(people.id)
    .orderBy(asc(sql`lower(${people.name})`))

/** Roles at single sites of an organisation, by name of the site. */
export const siteRolesOf = (queries: Queries, organisationId: number) =>
  queries
    .select({
      personId: siteRoles.personId,
      role: siteRoles.role,
      site: sites.slug,
      name: sites.name,
    })
    .from(siteRoles)
    .innerJoin(sites, eq(sites.id, siteRoles.siteId))
    .where(and(eq(sites.organisationId, organisationId), isNull(sites.deletedAt)))
    .orderBy(asc(sites.name))

export interface SiteRole {
  readonly site: string
  readonly role: Role
}

/** Gives somebody other roles at single sites; answers which of the sites the organisation does not have. */
export async function setSiteRoles(queries: Queries, person: Person, wanted: readonly SiteRole[]) {
  const slugs = wanted.map(({ site }) => site)
  const found =
    slugs.length === 0
      ? []
      : await queries
          .select({ id: sites.id, slug: sites.slug })
          .from(sites)
          .where(
            and(
              inArray(sites.slug, slugs),
              eq(sites.organisationId, person.organisationId),
              isNull(sites.deletedAt),
            ),
          )
  const ids = new Map(found.map(({ id, slug }) => [slug, id]))
  await queries.delete(siteRoles).where(eq(siteRoles.personId, person.id))
  const rows = wanted.flatMap(({ site, role }) => {
    const siteId = ids.get(site)
    return siteId === undefined ? [] : [{ personId: person.id, siteId, role }]
  })
  if (rows.length > 0) await queries.insert(siteRoles).values(rows)
  return slugs.filter((slug) => !ids.has(slug))
}

/** Null where the name is taken. */
export async function addPerson(
  queries: Queries,
  person: Pick<Person, 'organisationId' | 'name' | 'role' | 'passwordHash'> & {
    readonly isOperator?: boolean
  },
): Promise<Person | null> {
  const [made] = await queries.insert(people).values(person).onConflictDoNothing().returning()
  return made ?? null
}

export async function changePerson(
  queries: Queries,
  id: number,
  change: Partial<Pick<Person, 'role' | 'passwordHash' | 'disabledAt' | 'isOperator'>>,
): Promise<void> {
  await queries.update(people).set(change).where(eq(people.id, id))
}

export async function removePerson(queries: Queries, id: number): Promise<void> {
  await queries.delete(people).where(eq(people.id, id))
}

/** Who can sign in, by a password or by the provider; `issuer` is null where there is no provider. */
const canSignIn = (issuer: string | null) =>
  and(
    isNull(people.disabledAt),
    or(
      isNotNull(people.passwordHash),
      issuer === null
        ? undefined
        : sql`exists (select from ${identities}
            where ${identities.personId} = ${people.id} and ${identities.issuer} = ${issuer})`,
    ),
  )

/** Administrators who can sign in, held so that two of them cannot put each other out at once. */
export async function activeAdministrators(
  queries: Queries,
  organisationId: number,
  issuer: string | null,
): Promise<number[]> {
  const rows = await queries
    .select({ id: people.id })
    .from(people)
    .where(
      and(eq(people.role, 'administrator'), eq(people.organisationId, organisationId), canSignIn(issuer)),
    )
    .orderBy(asc(people.id))
    .for('update')
  return rows.map(({ id }) => id)
}

/** Operators who can sign in, of whichever organisation. */
export async function activeOperators(queries: Queries, issuer: string | null): Promise<number[]> {
  const rows = await queries
    .select({ id: people.id })
    .from(people)
    .where(and(eq(people.isOperator, true), canSignIn(issuer)))
  return rows.map(({ id }) => id)
}

/** Who operated first, whether or not they can sign in. */
export async function firstOperator(queries: Queries): Promise<Person | null> {
  const [person] = await queries
    .select()
    .from(people)
    .where(eq(people.isOperator, true))
    .orderBy(asc(people.id))
    .limit(1)
  return person ?? null
}

const OPERATORS_LOCK = 610_064

/** Until the transaction ends nobody else changes who operates. */
export async function holdOperators(queries: Queries): Promise<void> {
  await queries.execute(sql`select pg_advisory_xact_lock(${OPERATORS_LOCK})`)
}

/** How many there are, of an organisation or of all. */
export async function countPeople(queries: Queries, organisationId?: number): Promise<number> {
  const [row] = await queries
    .select({ count: count() })
    .from(people)
    .where(organisationId === undefined ? undefined : eq(people.organisationId, organisationId))
  return row?.count ?? 0
}

/** One link a person: an older one stops working. */
export async function addLink(queries: Queries, link: typeof oneTimeLinks.$inferSelect): Promise<void> {
  const same =
    link.personId === null ? isNull(oneTimeLinks.personId) : eq(oneTimeLinks.personId, link.personId)
  await queries.delete(oneTimeLinks).where(same)
  await queries.insert(oneTimeLinks).values(link)
}

/** Whom a link is for; null where it is unknown, was used, or is too old. */
export async function linkWith(queries: Queries, tokenHash: string, at: Date) {
  const [row] = await queries
    .select({ personId: oneTimeLinks.personId, expiresAt: oneTimeLinks.expiresAt, person: people })
    .from(oneTimeLinks)
    .leftJoin(people, eq(people.id, oneTimeLinks.personId))
    .where(and(eq(oneTimeLinks.tokenHash, tokenHash), gt(oneTimeLinks.expiresAt, at)))
  return row ?? null
}

/** Whether it was there: of two who use a link at once one is told no. */
export async function useLink(queries: Queries, tokenHash: string): Promise<boolean> {
  const used = await queries.delete(oneTimeLinks).where(eq(oneTimeLinks.tokenHash, tokenHash)).returning()
  return used.length > 0
}

/** Counts one try and answers how many there are now; those from before `since` are forgotten first. */
export async function countTry(queries: Queries, key: string, at: Date, since: Date): Promise<number> {
  await queries.delete(signInFailures).where(lt(signInFailures.lastAt, since))
  const [row] = await queries
    .insert(signInFailures)
    .values({ key, count: 1, lastAt: at })
    .onConflictDoUpdate({
      target: signInFailures.key,
      set: { count: sql`${signInFailures.count} + 1`, lastAt: at },
    })
    .returning({ count: signInFailures.count })
  return row?.count ?? 1
}

/** Takes back the count of a try that turned out right. */
export async function uncountTry(queries: Queries, key: string): Promise<void> {
  await queries
    .update(signInFailures)
    .set({ count: sql`greatest(0, ${signInFailures.count} - 1)` })
    .where(eq(signInFailures.key, key))
}

export async function forgetFailures(queries: Queries, key: string): Promise<void> {
  await queries.delete(signInFailures).where(eq(signInFailures.key, key))
}

export async function passwordHashOf(queries: Queries, id: number): Promise<string | null> {
  const [row] = await queries.select({ hash: people.passwordHash }).from(people).where(eq(people.id, id))
  return row?.hash ?? null
}
