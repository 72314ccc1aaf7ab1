import { and, asc, count, eq, gt, lt } from 'drizzle-orm'
import { authenticators, challenges, passkeys, people, recoveryCodes } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type Passkey = typeof passkeys.$inferSelect

export async function authenticatorOf(queries: Queries, personId: number) {
  const [row] = await queries.select().from(authenticators).where(eq(authenticators.personId, personId))
  return row ?? null
}

/** Takes the place of one that was not confirmed; false where one is in use. */
export async function beginAuthenticator(
  queries: Queries,
  personId: number,
  sealed: string,
): Promise<boolean> {
  const known = await authenticatorOf(queries, personId)
  if (known?.confirmedAt) return false
  await queries
    .insert(authenticators)
    .values({ personId, sealed })
    .onConflictDoUpdate({ target: authenticators.personId, set: { sealed, lastStep: 0 } })
  return true
}

export async function confirmAuthenticator(queries: Queries, personId: number, at: Date): Promise<void> {
  await queries.update(authenticators).set({ confirmedAt: at }).where(eq(authenticators.personId, personId))
}

/** Whether the step is newer than any before: of two who give one code at once, one is told no. */
export async function takeStep(queries: Queries, personId: number, step: number): Promise<boolean> {
  const taken = await queries
    .update(authenticators)
    .set({ lastStep: step })
    .where(and(eq(authenticators.personId, personId), lt(authenticators.lastStep, step)))
    .returning({ step: authenticators.lastStep })
  return taken.length > 0
}

export async function removeAuthenticator(queries: Queries, personId: number): Promise<boolean> {
  const removed = await queries
    .delete(authenticators)
    .where(eq(authenticators.personId, personId))
    .returning({ confirmedAt: authenticators.confirmedAt })
  return removed.length > 0
}

/** In place of all that there were. */
export async function setRecoveryCodes(
  queries: Queries,
  personId: number,
  hashes: readonly string[],
): Promise<void> {
  await queries.delete(recoveryCodes).where(eq(recoveryCodes.personId, personId))
  if (hashes.length > 0)
    await queries.insert(recoveryCodes).values(hashes.map((codeHash) => ({ personId, codeHash })))
}

export async function countRecoveryCodes(queries: Queries, personId: number): Promise<number> {
  const [row] = await queries
    .select({ count: count() })
    .from(recoveryCodes)
    .where(eq(recoveryCodes.personId, personId))
  return row?.count ?? 0
}

/** Whether it was there; it is not any longer. */
export async function useRecoveryCode(
  queries: Queries,
  personId: number,
  codeHash: string,
): Promise<boolean> {
  const used = await queries
    .delete(recoveryCodes)
    .where(and(eq(recoveryCodes.personId, personId), eq(recoveryCodes.codeHash, codeHash)))
    .returning({ personId: recoveryCodes.personId })
  return used.length > 0
}

export const passkeysOf = (queries: Queries, personId: number): Promise<Passkey[]> =>
  queries.select().from(passkeys).where(eq(passkeys.personId, personId)).orderBy(asc(passkeys.addedAt))

/** A passkey and whose it is. */
export async function passkeyWith(queries: Queries, id: string) {
  const [row] = await queries
    .select({ passkey: passkeys, person: people })
    .from(passkeys)
    .innerJoin(people, eq(people.id, passkeys.personId))
    .where(eq(passkeys.id, id))
  return row ?? null
}

/** False where it is known already, whosever it is. */
export async function addPasskey(queries: Queries, passkey: typeof passkeys.$inferInsert): Promise<boolean> {
  const added = await queries
    .insert(passkeys)
    .values(passkey)
    .onConflictDoNothing()
    .returning({ id: passkeys.id })
  return added.length > 0
}

export async function usePasskey(queries: Queries, id: string, counter: number, usedAt: Date): Promise<void> {
  await queries.update(passkeys).set({ counter, usedAt }).where(eq(passkeys.id, id))
}

export async function removePasskey(queries: Queries, personId: number, id: string): Promise<boolean> {
  const removed = await queries
    .delete(passkeys)
    .where(and(eq(passkeys.personId, personId), eq(passkeys.id, id)))
    .returning({ id: passkeys.id })
  return removed.length > 0
}

export async function removePasskeys(queries: Queries, personId: number): Promise<void> {
  await queries.delete(passkeys).where(eq(passkeys.personId, personId))
}

/** Keeps a challenge; those that are too old are forgotten. */
export async function addChallenge(
  queries: Queries,
  challenge: typeof challenges.$inferSelect,
  at: Date,
): Promise<void> {
  await queries.delete(challenges).where(lt(challenges.expiresAt, at))
  await queries.insert(challenges).values(challenge)
}

/** Whom a challenge was given to; undefined where it is unknown, was answered, or is too old. */
export async function useChallenge(
  queries: Queries,
  challenge: string,
  at: Date,
): Promise<number | null | undefined> {
  const [used] = await queries
    .delete(challenges)
    .where(and(eq(challenges.challenge, challenge), gt(challenges.expiresAt, at)))
    .returning({ personId: challenges.personId })
  return used?.personId
}

/** People of an organisation who have a second factor. */
export async function peopleWithFactor(queries: Queries, organisationId: number): Promise<Set<number>> {
  const [byApp, byKey] = await Promise.all([
    queries
      .select({ id: authenticators.personId, confirmedAt: authenticators.confirmedAt })
      .from(authenticators)
      .innerJoin(people, eq(people.id, authenticators.personId))
      .where(eq(people.organisationId, organisationId)),
    queries
      .selectDistinctOn([passkeys.personId], { id: passkeys.personId })
      .from(passkeys)
      .innerJoin(people, eq(people.id, passkeys.personId))
      .where(eq(people.organisationId, organisationId)),
  ])
  return new Set([...byApp.filter(({ confirmedAt }) => confirmedAt !== null), ...byKey].map(({ id }) => id))
}
