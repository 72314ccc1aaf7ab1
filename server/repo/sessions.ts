import { and, desc, eq, gt, isNull, lt, ne, sql } from 'drizzle-orm'
import type { SiteRoles } from '#contracts/roles'
import {
  authenticators,
  identities,
  organisations,
  passkeys,
  people,
  sessions,
  siteRoles,
  sites,
} from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type Session = typeof sessions.$inferSelect

export async function addSession(queries: Queries, session: Session): Promise<void> {
  await queries.insert(sessions).values(session)
}

/** Who somebody is, and what they may do. */
const WHO = {
  personId: people.id,
  name: people.name,
  organisation: { id: organisations.id, name: organisations.name, needsFactor: organisations.needsFactor },
  role: people.role,
  isOperator: people.isOperator,
  hasPassword: sql<boolean>`${people.passwordHash} is not null`,
  /** By an authenticator app or a passkey; who has no password leaves it to the provider what it asks for. */
  hasFactor: sql<boolean>`(
    exists (select from ${authenticators} where ${authenticators.personId} = ${people.id}
      and ${authenticators.confirmedAt} is not null)
    or exists (select from ${passkeys} where ${passkeys.personId} = ${people.id})
    or (${people.passwordHash} is null
      and exists (select from ${identities} where ${identities.personId} = ${people.id})))`,
  siteRoles: sql<SiteRoles>`coalesce((select json_object_agg(${sites.slug}, ${siteRoles.role}) from ${siteRoles}
    join ${sites} on ${sites.id} = ${siteRoles.siteId}
    where ${siteRoles.personId} = ${people.id} and ${sites.deletedAt} is null), '{}')`,
}
const maySignIn = isNull(people.disabledAt)

/** A session that has not ended, with whose it is; null for one of nobody who may come in. */
export async function sessionWith(queries: Queries, id: string, at: Date) {
  const [row] = await queries
    .select({ ...WHO, seenAt: sessions.seenAt })
    .from(sessions)
    .innerJoin(people, eq(people.id, sessions.personId))
    .innerJoin(organisations, eq(organisations.id, people.organisationId))
    .where(and(eq(sessions.id, id), gt(sessions.expiresAt, at), maySignIn))
  if (!row) return null
  const { seenAt, ...who } = row
  return { who, seenAt }
}

/** When a session was opened; null where it has ended. */
export async function openedAt(queries: Queries, id: string): Promise<Date | null> {
  const [row] = await queries.select({ at: sessions.createdAt }).from(sessions).where(eq(sessions.id, id))
  return row?.at ?? null
}

/** Somebody as they are by now; null for who may not come in. */
export async function whoIs(queries: Queries, personId: number) {
  const [who] = await queries
    .select(WHO)
    .from(people)
    .innerJoin(organisations, eq(organisations.id, people.organisationId))
    .where(and(eq(people.id, personId), maySignIn))
  return who ?? null
}

export async function seeSession(queries: Queries, id: string, at: Date): Promise<void> {
  await queries.update(sessions).set({ seenAt: at }).where(eq(sessions.id, id))
}

export const sessionsOf = (queries: Queries, personId: number, at: Date): Promise<Session[]> =>
  queries
    .select()
    .from(sessions)
    .where(and(eq(sessions.personId, personId), gt(sessions.expiresAt, at)))
    .orderBy(desc(sessions.seenAt))

/** Ends sessions of a person; answers which. `only` one, or all `but` one. */
export async function endSessions(
  queries: Queries,
  personId: number,
  which: { readonly only?: string; readonly but?: string } = {},
): Promise<string[]> {
  const { only, but } = which
  const ended = await queries
    .delete(sessions)
    .where(
      and(
        eq(sessions.personId, personId),
        only === undefined ? undefined : eq(sessions.id, only),
        but === undefined ? undefined : ne(sessions.id, but),
      ),
    )
    .returning({ id: sessions.id })
  return ended.map(({ id }) => id)
}

export async function forgetExpired(queries: Queries, at: Date): Promise<void> {
  await queries.delete(sessions).where(lt(sessions.expiresAt, at))
}
