import { eq, lt, sql } from 'drizzle-orm'
import type { Role } from '#contracts/api'
import { people, signInFailures } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export async function personNamed(queries: Queries, name: string) {
  const [person] = await queries.select().from(people).where(eq(people.name, name))
  return person ?? null
}

export async function addPerson(
  queries: Queries,
  person: { readonly name: string; readonly role: Role; readonly passwordHash: string },
): Promise<void> {
  await queries
    .insert(people)
    .values(person)
    .onConflictDoUpdate({
      target: people.name,
      set: { role: person.role, passwordHash: person.passwordHash },
    })
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
