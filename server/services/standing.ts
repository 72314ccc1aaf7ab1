import type { SiteLine } from '#contracts/api'
import type { Standing } from '#contracts/answers'
import { SITES_PAGE } from '#contracts/limits'
import { askHeavy } from '#server/platform/heavy'
import { database } from '#server/platform/database'
import { describeError, log } from '#server/platform/log'
import type { Visitor } from '#server/platform/route'
import { asServer } from '#server/platform/scope'
import { keepDigest } from '#server/repo/digests'
import { planOf, sitesAfter, type SiteRow } from '#server/repo/plans'
import { newestResultId, newestResults } from '#server/repo/proof'
import { asOfToday } from './plans'

// How each site stands, for the list of all: found out in the background, and kept until something has changed.

/** Grows with what is counted, so that what was kept before is counted anew. */
const COUNTED = 2

const markOf = ({
  revision,
  savedAt,
  resultId,
}: Pick<SiteRow, 'revision' | 'savedAt' | 'resultId'>): string =>
  `${COUNTED} ${revision} ${savedAt.getTime()} ${resultId}`

const isKnown = (row: SiteRow): boolean => row.mark === markOf(row)

const MOST_FAILED = 1000
/** Sites whose standing is being found out by this process, or waits for that. */
const waiting = new Set<number>()
/** Sites, by the mark, of which it could not be found out: it would fail again. */
const failed = new Map<number, string>()
let last: Promise<void> = Promise.resolve()

/** One after the other: there are threads left for whoever saves. */
function findOut(rows: readonly SiteRow[]): void {
  for (const row of rows) {
    const { siteId } = row
    if (waiting.has(siteId) || failed.get(siteId) === markOf(row)) continue
    waiting.add(siteId)
    // The server itself looks: a site that is given away meanwhile stands as it stood.
    last = last
      .then(() => asServer(() => findOutOne(siteId)))
      .catch((error: unknown) => {
        if (failed.size >= MOST_FAILED) failed.clear()
        failed.set(siteId, markOf(row))
        log.warn({ siteId, error: describeError(error) }, 'how a site stands was not found out')
      })
      .finally(() => waiting.delete(siteId))
  }
}

async function findOutOne(siteId: number): Promise<void> {
  const db = database()
  // The newest result is asked for first: a later one makes what is found out now old, not wrong.
  const resultId = await newestResultId(db, siteId)
  const row = await planOf(db, siteId)
  if (!row) return
  const results = await newestResults(db, siteId)
  const told = results.map(({ testId, passed, value }) => ({ testId, passed, value }))
  await keepDigest(
    db,
    siteId,
    markOf({ ...row, resultId }),
    await askHeavy('digest', asOfToday(row.document), told),
  )
}

const standingOf = ({ digest, adopted }: SiteRow): Standing | null => (digest ? { ...digest, adopted } : null)

/** The sites after one, at which somebody may do something. */
export async function listSites({ role, siteRoles }: Visitor, after: string): Promise<SiteLine[]> {
  // A role in the organisation holds at every site of it; at single ones it can be another, and never none.
  const among = role === null ? Object.keys(siteRoles) : null
  const rows = await sitesAfter(database(), { after, most: SITES_PAGE, among })
  findOut(rows.filter((row) => !isKnown(row)))
  return rows.map((row) => ({
    slug: row.slug,
    name: row.name,
    revision: row.revision,
    author: row.author,
    savedAt: row.savedAt.toISOString(),
    isArchived: row.archivedAt !== null,
    standing: isKnown(row) ? standingOf(row) : null,
  }))
}
