import { eq, not, sql } from 'drizzle-orm'
import { authenticators, authorities, passphrases, tunnelKeys, webhooks } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

// Whatever is sealed, in whichever table: each has a column of that name, in which no text is there twice.

const TABLES = [tunnelKeys, passphrases, authenticators, webhooks, authorities]

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
  for (const table of TABLES) {
    const rows = await queries
      .select({ sealed: table.sealed })
      .from(table)
      .where(not(sql`starts_with(${table.sealed}, ${mark})`))
    for (const row of rows) {
      const sealed = anew(row.sealed)
      if (sealed === null) left++
      else await queries.update(table).set({ sealed }).where(eq(table.sealed, row.sealed))
    }
  }
  return left
}
