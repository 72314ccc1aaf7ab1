import { and, count, desc, eq, gt, isNull } from 'drizzle-orm'
import { apiTokens, people } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type Token = typeof apiTokens.$inferSelect

export async function addToken(queries: Queries, token: typeof apiTokens.$inferInsert): Promise<Token> {
  const [made] = await queries.insert(apiTokens).values(token).returning()
  if (!made) throw new Error('a token was not kept')
  return made
}

export const tokensOf = (queries: Queries, personId: number): Promise<Token[]> =>
  queries.select().from(apiTokens).where(eq(apiTokens.personId, personId)).orderBy(desc(apiTokens.id))

export async function countTokens(queries: Queries, personId: number): Promise<number> {
  const [row] = await queries
    .select({ count: count() })
    .from(apiTokens)
    .where(eq(apiTokens.personId, personId))
  return row?.count ?? 0
}

/** Its name; null where it was not theirs. */
export async function removeToken(queries: Queries, personId: number, id: number): Promise<string | null> {
  const [removed] = await queries
    .delete(apiTokens)
    .where(and(eq(apiTokens.id, id), eq(apiTokens.personId, personId)))
    .returning({ name: apiTokens.name })
  return removed?.name ?? null
}

/** A token that holds, of somebody who may come in. */
export async function tokenWith(queries: Queries, tokenHash: string, at: Date): Promise<Token | null> {
  const [row] = await queries
    .select({ token: apiTokens })
    .from(apiTokens)
    .innerJoin(people, eq(people.id, apiTokens.personId))
    .where(and(eq(apiTokens.tokenHash, tokenHash), gt(apiTokens.expiresAt, at), isNull(people.disabledAt)))
  return row?.token ?? null
}

export async function seeToken(queries: Queries, id: number, usedAt: Date): Promise<void> {
  await queries.update(apiTokens).set({ usedAt }).where(eq(apiTokens.id, id))
}
