import { and, asc, eq } from 'drizzle-orm'
import { passphrases } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

/** Of a site, with what is sealed. */
export const passphrasesOf = (queries: Queries, siteId: number) =>
  queries.select().from(passphrases).where(eq(passphrases.siteId, siteId)).orderBy(asc(passphrases.ssidId))

/** Keeps one; an SSID has one at a time. */
export async function keepPassphrase(queries: Queries, row: typeof passphrases.$inferInsert): Promise<void> {
  const fresh = { ...row, shownAt: null, shownBy: null }
  await queries
    .insert(passphrases)
    .values(fresh)
    .onConflictDoUpdate({ target: [passphrases.siteId, passphrases.ssidId], set: fresh })
}

export async function notePassphraseShown(
  queries: Queries,
  siteId: number,
  ssidId: string,
  at: Date,
  who: string,
): Promise<void> {
  await queries
    .update(passphrases)
    .set({ shownAt: at, shownBy: who })
    .where(and(eq(passphrases.siteId, siteId), eq(passphrases.ssidId, ssidId)))
}
