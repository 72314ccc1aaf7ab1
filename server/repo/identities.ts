import { and, eq } from 'drizzle-orm'
import { identities, people } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

/** Who somebody is at a provider: its issuer, and its name for them. */
export type Identity = typeof identities.$inferSelect

/** Whose identity it is; null where it is nobody's. */
export async function personBy(queries: Queries, { issuer, subject }: Pick<Identity, 'issuer' | 'subject'>) {
  const [row] = await queries
    .select({ person: people })
    .from(identities)
    .innerJoin(people, eq(people.id, identities.personId))
    .where(and(eq(identities.issuer, issuer), eq(identities.subject, subject)))
  return row?.person ?? null
}

export async function identityOf(queries: Queries, personId: number): Promise<Identity | null> {
  const [row] = await queries.select().from(identities).where(eq(identities.personId, personId))
  return row ?? null
}

/** False where it is somebody's already, or where they have another. */
export async function addIdentity(queries: Queries, identity: Identity): Promise<boolean> {
  const added = await queries
    .insert(identities)
    .values(identity)
    .onConflictDoNothing()
    .returning({ personId: identities.personId })
  return added.length > 0
}

export async function removeIdentity(queries: Queries, personId: number): Promise<boolean> {
  const removed = await queries
    .delete(identities)
    .where(eq(identities.personId, personId))
    .returning({ personId: identities.personId })
  return removed.length > 0
}

/** People of an organisation who can sign in by a provider. */
export async function peopleWithIdentity(
  queries: Queries,
  organisationId: number,
  issuer: string,
): Promise<Set<number>> {
  const rows = await queries
    .select({ id: identities.personId })
    .from(identities)
    .innerJoin(people, eq(people.id, identities.personId))
    .where(and(eq(people.organisationId, organisationId), eq(identities.issuer, issuer)))
  return new Set(rows.map(({ id }) => id))
}
