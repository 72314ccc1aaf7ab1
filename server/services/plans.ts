import { isDeepStrictEqual } from 'node:util'
import type { Revision } from '#contracts/answers'
import type { PatchOp, PlanAt, RevisionLine, SiteSummary } from '#contracts/api'
import { roleAtSite } from '#contracts/roles'
import { patchBetween } from '#contracts/patch'
import { parsePlan } from '#contracts/plan'
import { planForAnotherSite } from '#core/edit'
import { addressesOf, type FleetSite } from '#core/brief'
import { PLAN_VERSION } from '#core/format'
import type { Plan } from '#core/schema'
import type { Result } from '#core/util'
import * as repo from '#server/repo/plans'
import { now } from '#server/platform/clock'
import { database, type Queries } from '#server/platform/database'
import { askHeavy } from '#server/platform/heavy'
import { tell } from '#server/platform/news'
import { Refused, refused, type Visitor } from '#server/platform/route'
import { enqueueWebhooks } from './webhooks'

/** A whole document is kept at every so many revisions; between them patches are enough. */
const SNAPSHOT_EVERY = 20
const MOST_LINES = 500

/** What each site of the fleet, as far as somebody sees it, uses of the address space. */
export async function fleetAddresses(visitor: Visitor): Promise<FleetSite[]> {
  return (await repo.allAddressing(database()))
    .filter(({ slug }) => roleAtSite(visitor, slug) !== null)
    .map(({ slug, document }) => addressesOf(slug, asOfToday(document)))
}

export async function siteOf(queries: Queries, slug: string) {
  const site = await repo.siteWithSlug(queries, slug)
  if (!site) throw refused(404, 'no-such-site', slug)
  return site
}

type PlanRow = NonNullable<Awaited<ReturnType<typeof repo.planForChange>>>
const planAt = (slug: string, row: PlanRow): PlanAt => ({
  slug,
  revision: row.revision,
  savedAt: row.savedAt.toISOString(),
  author: row.author,
  plan: asOfToday(row.document),
})

const isOld = (document: Plan): boolean => (document.version as number) < PLAN_VERSION

/** A stored document in today's version; what was stored by an older Able Mast is upgraded as it is read. */
export function asOfToday(document: Plan): Plan {
  if (!isOld(document)) return document
  const parsed = parsePlan(document)
  if (!parsed.ok) throw new Error('a stored plan cannot be upgraded')
  return parsed.value
}

// A revision's document never changes once it is stored, so what was read of one is kept for the next reader.
const MOST_KEPT = 32
const kept = new Map<string, PlanAt>()

/** The site's number and its plan as it is now. */
export async function siteAndPlan(
  slug: string,
  queries: Queries = database(),
): Promise<{ siteId: number; current: PlanAt }> {
  const newest = await repo.newestRevision(queries, slug)
  if (!newest) throw refused(404, 'no-such-site', slug)
  const key = `${newest.siteId} ${newest.revision} ${newest.savedAt.getTime()}`
  const known = kept.get(key)
  if (known) return { siteId: newest.siteId, current: known }
  const row = await repo.planOf(queries, newest.siteId)
  if (!row) throw refused(404, 'no-such-site', slug)
  const current = planAt(slug, row)
  if (kept.size >= MOST_KEPT) kept.clear()
  kept.set(`${newest.siteId} ${row.revision} ${row.savedAt.getTime()}`, current)
  return { siteId: newest.siteId, current }
}

export const currentPlan = async (slug: string, queries: Queries = database()): Promise<PlanAt> =>
  (await siteAndPlan(slug, queries)).current

/** A question's answer; @throws Refused where it is a refusal */
export function taken<Value>(answer: Result<Value>): Value {
  if (!answer.ok) throw new Refused(400, answer.problems)
  return answer.value
}

interface Change {
  readonly slug: string
  readonly baseRevision: number
  readonly author: string
}

/**
 * One change in one transaction: the newest plan is held, compared with what the change was made from, then
 * replaced.
 */
async function changePlan(
  change: Change,
  make: (
    document: Plan,
    q: Queries,
    siteId: number,
  ) => Promise<{ document: Plan; patch: readonly PatchOp[]; words: string }>,
): Promise<PlanAt> {
  return database().transaction(async (tx) => {
    const site = await siteOf(tx, change.slug)
    const row = await repo.planForChange(tx, site.id)
    if (!row) throw refused(404, 'no-such-site', change.slug)
    if (site.archivedAt) throw refused(409, 'site-archived', change.slug, { text: site.name })
    if (row.revision !== change.baseRevision) {
      const problem = refused(409, 'stale-revision', '', {
        yours: change.baseRevision,
        now: row.revision,
        author: row.author,
      })
      throw new Refused(409, problem.problems, planAt(change.slug, row))
    }
    const { document, patch, words } = await make(asOfToday(row.document), tx, site.id)
    const revision = row.revision + 1
    const at = now()
    // The first change after an upgrade starts a new chain: its patch is made from the upgraded document.
    const snapshot = revision % SNAPSHOT_EVERY === 0 || isOld(row.document) ? document : null
    await repo.storeRevision(
      tx,
      { siteId: site.id, revision, at, author: change.author, words, patch, snapshot },
      document,
    )
    if (document.site.name !== site.name) await repo.renameSite(tx, site.id, document.site.name)
    await tell(tx, { site: change.slug, topic: 'plan' })
    const { slug, author } = change
    await enqueueWebhooks(tx, site.id, 'plan.changed', { site: slug, revision, author, words })
    return { slug, revision, savedAt: at.toISOString(), author, plan: document }
  })
}

export function savePlan(change: Change, patch: readonly PatchOp[], words: string): Promise<PlanAt> {
  return changePlan(change, async (document) => ({
    document: taken(await askHeavy('patchPlan', document, [patch], true)),
    patch,
    words,
  }))
}

async function planAtRevision(
  queries: Queries,
  siteId: number,
  revision: number,
): Promise<{ plan: Plan; line: RevisionLine }> {
  const found = await repo.snapshotAndPatches(queries, siteId, revision)
  if (!found) throw refused(404, 'no-such-revision', String(revision))
  const plan = taken(await askHeavy('patchPlan', found.snapshot, found.patches, false))
  const { at, author, words } = found.line
  return { plan, line: { revision, at: at.toISOString(), author, words } }
}

export async function revisionOf(slug: string, revision: number): Promise<Revision> {
  const db = database()
  const site = await siteOf(db, slug)
  const here = await planAtRevision(db, site.id, revision)
  const before = revision > 1 ? (await planAtRevision(db, site.id, revision - 1)).plan : null
  return { ...here, before }
}

export async function revisionsOf(slug: string): Promise<RevisionLine[]> {
  const db = database()
  return repo.revisionLines(db, (await siteOf(db, slug)).id, MOST_LINES)
}

/** Makes an old revision the newest: nothing in between is lost. */
export function restorePlan(change: Change, revision: number): Promise<PlanAt> {
  return changePlan(change, async (document, queries, siteId) => {
    const { plan } = await planAtRevision(queries, siteId, revision)
    if (isDeepStrictEqual(plan, document)) throw refused(409, 'nothing-to-restore', String(revision))
    return { document: plan, patch: patchBetween(document, plan), words: `restored revision ${revision}` }
  })
}

const slugFrom = (name: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-|-$/g, '')
    .slice(0, 40) || 'site'

/** Stores a plan as a new site, revision 1. */
export async function addSite(
  queries: Queries,
  plan: Plan,
  author: string,
  words: string,
  wantedSlug = slugFrom(plan.site.name),
): Promise<{ slug: string; siteId: number }> {
  for (let n = 1; n <= 1000; n++) {
    const slug = n === 1 ? wantedSlug : `${wantedSlug}-${n}`
    const siteId = await repo.addSite(queries, slug, plan.site.name)
    if (siteId === null) continue
    await repo.storeRevision(
      queries,
      { siteId, revision: 1, at: now(), author, words, patch: [], snapshot: plan },
      plan,
    )
    return { slug, siteId }
  }
  throw refused(409, 'too-many-alike', wantedSlug)
}

/** Makes a new site from what of another's plan holds for a site like it. */
export async function copySite(slug: string, name: string, author: string): Promise<SiteSummary> {
  return database().transaction(async (tx) => {
    const { plan } = await currentPlan(slug, tx)
    const made = await addSite(tx, planForAnotherSite(plan, name), author, `copied from ${slug}`)
    return { slug: made.slug, name, revision: 1 }
  })
}

/** Reads a site file and keeps it as a new site. */
export async function importSite(
  text: string,
  author: string,
  words = 'read from a site file',
): Promise<SiteSummary> {
  const plan = taken(await askHeavy('readPlan', text))
  const { slug } = await database().transaction((tx) => addSite(tx, plan, author, words))
  return { slug, name: plan.site.name, revision: 1 }
}
