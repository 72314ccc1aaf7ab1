import type { SiteDigest } from '#contracts/answers'
import { siteDigests } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

/** Keeps how a site stands, in place of what was known. */
export async function keepDigest(
  queries: Queries,
  siteId: number,
  mark: string,
  digest: SiteDigest,
): Promise<void> {
  await queries
    .insert(siteDigests)
    .values({ siteId, mark, digest })
    .onConflictDoUpdate({ target: siteDigests.siteId, set: { mark, digest } })
}
