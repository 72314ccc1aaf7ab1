import { and, eq, not, sql, type AnyColumn } from 'drizzle-orm'
import { authenticators, authorities, passphrases, tunnelKeys, webhooks } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

// Whatever is sealed, in whichever table.

const isOther = (column: AnyColumn, mark: string) => not(sql`starts_with(${column}, ${mark})`)

/**
 * Seals everything anew that does not begin with a mark.
 * @param anew null where it cannot be opened: it stays as it is
 * @returns how many stayed
 */
export async function sealAnew(
  queries: Queries,
  mark: string,
  anew: (sealed: string) => string | null,
): Promise<number> {
  let left = 0
  const each = async (sealed: string, keep: (sealed: string) => Promise<unknown>) => {
    const text = anew(sealed)
    if (text === null) left++
    else await keep(text)
  }
  for (const row of await queries.select().from(tunnelKeys).where(isOther(tunnelKeys.sealed, mark)))
    await each(row.sealed, (sealed) =>
      queries
        .update(tunnelKeys)
        .set({ sealed })
        .where(and(eq(tunnelKeys.siteId, row.siteId), eq(tunnelKeys.publicKey, row.publicKey))),
    )
  for (const row of await queries.select().from(passphrases).where(isOther(passphrases.sealed, mark)))
    await each(row.sealed, (sealed) =>
      queries
        .update(passphrases)
        .set({ sealed })
        .where(and(eq(passphrases.siteId, row.siteId), eq(passphrases.ssidId, row.ssidId))),
    )
  for (const row of await queries.select().from(authenticators).where(isOther(authenticators.sealed, mark)))
    await each(row.sealed, (sealed) =>
      queries.update(authenticators).set({ sealed }).where(eq(authenticators.personId, row.personId)),
    )
  for (const row of await queries.select().from(webhooks).where(isOther(webhooks.sealed, mark)))
    await each(row.sealed, (sealed) =>
      queries.update(webhooks).set({ sealed }).where(eq(webhooks.id, row.id)),
    )
  for (const row of await queries.select().from(authorities).where(isOther(authorities.sealed, mark)))
    await each(row.sealed, (sealed) =>
      queries.update(authorities).set({ sealed }).where(eq(authorities.purpose, row.purpose)),
    )
  return left
}
