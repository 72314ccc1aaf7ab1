import { createStore, del, get, keys, set, type UseStore } from 'idb-keyval'
import type { PlanAt } from '#contracts/api'
import { patchBetween } from '#contracts/patch'
import { PLAN_VERSION } from '#core/format'
import type { Plan } from '#core/schema'
import type { Step } from './steps'
import { closedTabs, thisTab } from './tab'

/** Work on one plan as this browser keeps it: a reload, a closed tab or a dead battery loses nothing. */
export interface StoredDraft {
  /** Version of the plan's format. */
  readonly version: number
  readonly saved: PlanAt
  readonly draft: Plan
  /** Drafts that were sent and never answered: the server may hold one of them. */
  readonly unacknowledged: readonly Plan[]
  readonly done: readonly Step[]
  readonly undone: readonly Step[]
  /** What was done since the last save. */
  readonly words: readonly string[]
}

/** Steps that outlive a reload. */
const MOST_STEPS = 50

/** The store that idb-keyval itself takes where none is named. */
const database = createStore('keyval-store', 'keyval')
/**
 * The same, with each write finished at once: what a page that is being left has not finished is rolled back,
 * since nobody is there any more to say that nothing follows.
 */
const finished: UseStore = (mode, use) =>
  database(mode, (store) => {
    const result = use(store)
    store.transaction.commit()
    return result
  })

const prefixOf = (person: string, slug: string): string =>
  `plan/${encodeURIComponent(person)}/${encodeURIComponent(slug)}/`

/** The same work under today's format; its steps, which are of the old one, are left out. */
async function asOfToday(work: StoredDraft): Promise<StoredDraft | null> {
  if (work.version === PLAN_VERSION) return work
  const { parsePlan } = await import('#contracts/plan')
  const [plan, draft] = [parsePlan(work.saved.plan), parsePlan(work.draft)]
  if (!plan.ok || !draft.ok) return null
  const saved = { ...work.saved, plan: plan.value }
  return {
    ...work,
    saved,
    draft: draft.value,
    version: PLAN_VERSION,
    unacknowledged: [],
    done: [],
    undone: [],
  }
}

/** Whether the server may not have all of it. */
export const isUnsaved = (work: StoredDraft): boolean =>
  work.unacknowledged.length > 0 || patchBetween(work.saved.plan, work.draft).length > 0

/** Keeps this tab's work on a plan. A browser that keeps nothing is no reason to stop working. */
export async function storeDraft(person: string, work: Omit<StoredDraft, 'version'>): Promise<void> {
  if (person === '') return
  const steps = {
    version: PLAN_VERSION,
    done: work.done.slice(-MOST_STEPS),
    undone: work.undone.slice(-MOST_STEPS),
  }
  try {
    await set(prefixOf(person, work.saved.slug) + (await thisTab()), { ...work, ...steps }, finished)
  } catch {
    // Private windows and full disks: the work is still on the screen, and the closing of the tab is warned of.
  }
}

/** Forgets what a person's browser keeps of plans that the server has; what it has not stays theirs. */
export async function forgetSavedPlans(person: string): Promise<void> {
  const prefix = `plan/${encodeURIComponent(person)}/`
  try {
    for (const key of (await keys<string>(database)).filter((kept) => kept.startsWith(prefix))) {
      const work = await get<StoredDraft>(key, database)
      if (work && !isUnsaved(work)) await del(key, database)
    }
  } catch {
    // A browser that keeps nothing has nothing to forget.
  }
}

/** What tabs have kept of a plan, by key. */
async function draftsOfTabs(prefix: string): Promise<readonly [string, StoredDraft][]> {
  const all = (await keys<string>(database)).filter((key) => key.startsWith(prefix))
  const works = await Promise.all(
    all.map(async (key) => [key, await get<StoredDraft>(key, database)] as const),
  )
  return works.flatMap(([key, work]) => (work ? [[key, work]] : []))
}

/** The plan as the server had it last, of work that stays another tab's. */
const withoutWork = (work: StoredDraft): StoredDraft => ({
  ...work,
  draft: work.saved.plan,
  unacknowledged: [],
  done: [],
  undone: [],
  words: [],
})

const newest = (works: readonly [string, StoredDraft][]) =>
  works.toSorted(([, one], [, other]) => other.saved.revision - one.saved.revision)[0]

/**
 * What a person kept of a plan: this tab's own work, or that of a tab that is closed, unsaved work first.
 * Taken over from a closed tab, it is this tab's from then on; of a tab that is open the saved plan alone is known.
 */
export async function storedDraft(person: string, slug: string): Promise<StoredDraft | null> {
  try {
    const prefix = prefixOf(person, slug)
    const own = prefix + (await thisTab())
    const mine = await get<StoredDraft>(own, database)
    if (mine && isUnsaved(mine)) return asOfToday(mine)
    const [all, isClosed] = [await draftsOfTabs(prefix), await closedTabs()]
    const closed = all.filter(([key]) => isClosed(key.slice(prefix.length)))
    const taken = newest(closed.filter(([, work]) => isUnsaved(work))) ?? (mine ? undefined : newest(closed))
    if (!taken) {
      const known = mine ?? newest(all.map(([key, work]) => [key, withoutWork(work)] as const))?.[1]
      return known ? asOfToday(known) : null
    }
    const [key, work] = taken
    await set(own, work, database)
    await del(key, database)
    return asOfToday(work)
  } catch {
    return null
  }
}
