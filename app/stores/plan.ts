import { produce } from 'immer'
import type { PatchOp, PlanAt } from '#contracts/api'
import { patchBetween } from '#contracts/patch'
import type { Problem } from '#core/util'
import { problem } from '#core/util'
import { applyChanges, changesNotIn, withoutDangling, withPrintableTexts, type Change } from '#core/edit'
import { printableLine } from '#core/format'
import { createEngine } from '#core/queries'
import type { Draft, Plan } from '#core/schema'
import { api, type Answer } from './api'
import { mergeBase, rebasedOnTheirs, type Conflict } from './conflict'
import { isUnsaved, storeDraft, storedDraft, type StoredDraft } from './draft-store'
import { takeEarly } from './early-answers'
import { createRetry, isUnanswered } from './retry'
import { useSession } from './session'
import { continuesStep, withDifference, withStep, type Step } from './steps'

/** A pause in typing after which work is saved, and after which this browser keeps it. */
const SAVE_AFTER_MS = 900
const STORE_AFTER_MS = 300
const MOST_WORDS = 300
/** Drafts sent without an answer that are remembered. */
const MOST_UNACKNOWLEDGED = 50

type SaveState = 'saved' | 'unsaved' | 'saving' | 'failed' | 'conflict'

export type PlanDraft = Draft<Plan>

const summary = (words: readonly string[]): string => [...new Set(words)].join('; ').slice(0, MOST_WORDS)
const alike = (one: Plan, other: Plan): boolean => patchBetween(one, other).length === 0

/** The plan being worked on: the newest saved revision, the draft on top of it, and the way back. */
export const usePlan = defineStore('plan', () => {
  const session = useSession()
  const slug = ref('')
  const loading = ref<'no' | 'yes' | 'failed'>('no')
  const saved = shallowRef<PlanAt | null>(null)
  const draft = shallowRef<Plan | null>(null)
  const engine = createEngine()
  /** The draft's things by id, and what is computed of it here; the worker has its own. */
  const index = computed(() => draft.value && engine.index(draft.value))
  const undone = shallowRef<readonly Step[]>([])
  const done = shallowRef<readonly Step[]>([])
  const state = ref<SaveState>('saved')
  const problems = shallowRef<readonly Problem[]>([])
  /** Nobody answered when it was opened: it is what this browser kept. */
  const isFromBefore = ref(false)
  const conflict = shallowRef<Conflict | null>(null)
  let unsavedWords: string[] = []
  let unacknowledged: readonly Plan[] = []
  let saveTimer: ReturnType<typeof setTimeout> | undefined
  let storeTimer: ReturnType<typeof setTimeout> | undefined
  /** Counts what was opened, so that a late answer for another site is told from one for this. */
  let opening = 0
  let running: Promise<void> = Promise.resolve()
  const retry = createRetry(() => void save())
  const person = () => session.me?.name ?? ''
  if (typeof addEventListener !== 'undefined') addEventListener('pagehide', storeNow)

  async function open(wanted: string): Promise<void> {
    if (slug.value === wanted && saved.value) return
    leave()
    const turn = ++opening
    slug.value = wanted
    saved.value = draft.value = null
    done.value = undone.value = []
    conflict.value = null
    loading.value = 'yes'
    const [answer, kept] = await Promise.all([readPlan(wanted), storedDraft(person(), wanted)])
    if (turn !== opening) return
    loading.value = 'no'
    isFromBefore.value = !answer.ok && isUnanswered(answer.status)
    if (answer.ok) resume(kept, answer.value)
    else if (kept && isUnanswered(answer.status)) resumeOffline(kept, answer.refusal.problems)
    else {
      loading.value = 'failed'
      problems.value = answer.refusal.problems
    }
  }

  async function readPlan(wanted: string): Promise<Answer<PlanAt>> {
    // An early answer may be a refusal from before one signed in.
    const path = `sites/${wanted}/plan`
    const early = await takeEarly<PlanAt>(path)
    return early && (early.ok || isUnanswered(early.status)) ? early : api<PlanAt>('GET', path)
  }

  /** Leaves the site that is open: what is not saved is sent once more, and kept here until it arrived. */
  function leave(): void {
    retry.stop()
    storeNow()
    void save()
  }

  function resetTo(answer: PlanAt): void {
    retry.stop()
    saved.value = answer
    draft.value = answer.plan
    state.value = 'saved'
    problems.value = []
    unsavedWords = []
    unacknowledged = []
    storeSoon()
  }

  /** Goes on with what this browser kept, on the plan that the server has now. */
  function resume(kept: StoredDraft | null, theirs: PlanAt): void {
    if (!kept) return resetTo(theirs)
    const isSame = theirs.revision === kept.saved.revision && theirs.savedAt === kept.saved.savedAt
    done.value = kept.done
    undone.value = kept.undone
    const isOurs = isUnsaved(kept)
    if (!isOurs && !isSame) return resetTo(theirs)
    restoreDraft(kept)
    if (!isSame) reconcile(theirs, kept.draft)
    else if (isOurs) changed()
  }

  /** The same while the server does not answer. */
  function resumeOffline(kept: StoredDraft, why: readonly Problem[]): void {
    done.value = kept.done
    undone.value = kept.undone
    restoreDraft(kept)
    if (isUnsaved(kept)) fail(0, why)
  }

  function restoreDraft(kept: StoredDraft): void {
    saved.value = kept.saved
    draft.value = kept.draft
    unacknowledged = kept.unacknowledged
    unsavedWords = [...kept.words]
    problems.value = []
    state.value = 'saved'
  }

  function storeSoon(): void {
    storeTimer ??= setTimeout(storeNow, STORE_AFTER_MS)
  }

  function storeNow(): void {
    clearTimeout(storeTimer)
    storeTimer = undefined
    if (!saved.value || !draft.value) return
    void storeDraft(person(), {
      saved: saved.value,
      draft: draft.value,
      unacknowledged,
      done: done.value,
      undone: undone.value,
      words: unsavedWords,
    })
  }

  function take(after: Plan, words: string): void {
    draft.value = after
    unsavedWords.push(printableLine(words))
    storeSoon()
    if (state.value !== 'conflict') changed()
  }

  /** There is something to save: after a pause, and once what is on its way has come back. */
  function changed(): void {
    if (state.value !== 'saving') state.value = 'unsaved'
    clearTimeout(saveTimer)
    saveTimer = setTimeout(() => void save(), SAVE_AFTER_MS)
  }

  /**
   * Changes the plan by a function of core.
   * Calls of one session join into one step to undo, and each of them starts from the
   * plan as it was before the session: what a half-typed number did is gone with it.
   */
  function change(words: string, session: string, make: (plan: Plan) => Plan): void {
    const now = draft.value
    if (!now) return
    const last = done.value.at(-1)
    const after = make(continuesStep(session, last, now) ? last.before : now)
    if (after === now) return
    push(now, after, words, session)
  }

  /** The same by a recipe that writes into a draft. */
  function edit(words: string, session: string, recipe: (plan: PlanDraft) => void): void {
    change(words, session, (before) => produce(before, recipe as (plan: unknown) => void))
  }

  /** Takes back the newest step where it is of one session, as if it had never been; false where it is not. */
  function dropSession(session: string): boolean {
    const [last, now] = [done.value.at(-1), draft.value]
    if (!now || !continuesStep(session, last, now)) return false
    done.value = done.value.slice(0, -1)
    take(last.before, `left as it was: ${last.words}`)
    return true
  }

  /** Runs several edits as one step to undo. */
  function asOne(words: string, edits: () => void): void {
    const before = draft.value
    const depth = done.value.length
    edits()
    if (!before || !draft.value || draft.value === before) return
    done.value = [...done.value.slice(0, depth), { before, after: draft.value, words, session: '' }]
  }

  function push(before: Plan, made: Plan, words: string, session: string): void {
    const after = withoutDangling(withPrintableTexts(before, made))
    const { steps, joined } = withStep(done.value, { before, after, words, session })
    if (joined) unsavedWords.pop()
    done.value = steps
    undone.value = []
    take(after, words)
  }

  /** Lays changes on the plan: a mend, an import. False, and the reason kept, where they no longer fit. */
  function apply(words: string, changes: readonly Change[]): boolean {
    if (!draft.value) return false
    const result = applyChanges(draft.value, changes)
    if (!result.ok) {
      problems.value = result.problems
      return false
    }
    push(draft.value, result.value, words, '')
    return true
  }

  /** Moves the newest step from one pile to the other, with the plan following. */
  function follow(
    from: typeof done,
    to: typeof done,
    ends: (step: Step) => { from: Plan; to: Plan },
    verb: string,
  ): void {
    const step = from.value.at(-1)
    if (!step) return
    const { from: before, to: wanted } = ends(step)
    const after = draft.value && withDifference(draft.value, before, wanted)
    if (!after) {
      problems.value = [problem('undo-does-not-fit', '', { words: step.words })]
      return
    }
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, step]
    take(after, `${verb}: ${step.words}`)
  }
  const undo = () => follow(done, undone, (step) => ({ from: step.after, to: step.before }), 'undid')
  const redo = () => follow(undone, done, (step) => ({ from: step.before, to: step.after }), 'did again')

  /** Sends what is not saved; while something is on its way, it does nothing. */
  function save(): Promise<void> {
    clearTimeout(saveTimer)
    const [base, mine] = [saved.value, draft.value]
    if (!base || !mine || state.value === 'saving' || state.value === 'conflict') return running
    const patch = patchBetween(base.plan, mine)
    if (patch.length === 0 && unacknowledged.length === 0) {
      state.value = 'saved'
      unsavedWords = []
      return running
    }
    state.value = 'saving'
    running = send(base, mine, patch)
    return running
  }

  async function send(base: PlanAt, mine: Plan, patch: readonly PatchOp[]): Promise<void> {
    const turn = opening
    const [told, words] = [unsavedWords, summary(unsavedWords)]
    unsavedWords = []
    unacknowledged = [...new Set([...unacknowledged, mine])].slice(-MOST_UNACKNOWLEDGED)
    const path = `sites/${base.slug}/plan`
    // A plan that is again as it was may be otherwise on the server, by what was sent and not answered.
    const answer =
      patch.length === 0
        ? await api<PlanAt>('GET', path)
        : await api<PlanAt>('PATCH', path, { baseRevision: base.revision, patch, words })
    if (turn !== opening) return
    if (answer.ok && patch.length > 0) return acknowledge(answer.value, mine)
    unsavedWords = [...told, ...unsavedWords]
    const now = draft.value ?? mine
    const theirs = answer.ok ? answer.value : answer.refusal.current
    if (theirs) return theirs.revision === base.revision ? acknowledge(theirs, mine) : reconcile(theirs, now)
    if (!answer.ok) fail(answer.status, answer.refusal.problems)
  }

  /** The server has a draft of ours; what was done since goes next. */
  function acknowledge(at: PlanAt, plan: Plan): void {
    const [mine, words] = [draft.value ?? plan, unsavedWords]
    resetTo({ ...at, plan })
    if (mine === plan) return
    draft.value = mine
    unsavedWords = words
    changed()
  }

  /** The server's plan is not the one that ours began from: it is ours after all, or there are two versions. */
  function reconcile(theirs: PlanAt, mine: Plan): void {
    const known = [mine, ...unacknowledged].find((plan) => alike(plan, theirs.plan))
    if (known) return acknowledge(theirs, known)
    retry.stop()
    const base = mergeBase(saved.value?.plan ?? theirs.plan, unacknowledged, theirs.plan)
    if (changesNotIn(base, mine, theirs.plan).length === 0) return resetTo(theirs)
    conflict.value = { base, mine, theirs, words: summary(unsavedWords) }
    state.value = 'conflict'
    storeSoon()
  }

  function fail(status: number, why: readonly Problem[]): void {
    problems.value = why
    state.value = 'failed'
    if (isUnanswered(status)) retry.later()
    storeSoon()
  }

  /** Saves now what is not saved yet; false where that did not work. */
  async function flush(): Promise<boolean> {
    await running
    if (state.value === 'unsaved' || state.value === 'failed') await save()
    return state.value === 'saved'
  }

  function keepTheirs(): void {
    if (!conflict.value) return
    resetTo(conflict.value.theirs)
    done.value = undone.value = []
    conflict.value = null
  }

  /**
   * Lays one's own changes on the other version.
   * False where any of them does not fit: then nothing is done.
   */
  function layMineOnTheirs(): boolean {
    const now = conflict.value
    if (!now || !draft.value) return false
    const result = rebasedOnTheirs(now, draft.value)
    if (!result.ok) {
      problems.value = result.problems
      return false
    }
    resetTo(now.theirs)
    conflict.value = null
    push(now.theirs.plan, result.value, now.words, '')
    return true
  }

  /**
   * Somebody saved.
   * Without work of one's own the newer plan is taken as it is; otherwise the next save is refused and both
   * are shown.
   */
  async function refresh(): Promise<void> {
    if (state.value !== 'saved' || !saved.value) return
    const held = draft.value
    const [turn, answer] = [opening, await api<PlanAt>('GET', `sites/${slug.value}/plan`)]
    if (turn !== opening || !answer.ok || state.value !== 'saved' || draft.value !== held) return
    if (answer.value.revision > saved.value.revision) resetTo(answer.value)
  }

  async function restore(revision: number): Promise<readonly Problem[]> {
    if (!(await flush()) || !saved.value) return problems.value
    const [turn, held] = [opening, draft.value]
    const answer = await api<PlanAt>('POST', `sites/${slug.value}/restore`, {
      baseRevision: saved.value.revision,
      revision,
    })
    if (turn !== opening) return []
    if (!answer.ok) return answer.refusal.problems
    if (draft.value === held) resetTo(answer.value)
    else reconcile(answer.value, draft.value ?? answer.value.plan)
    return []
  }

  return {
    slug,
    loading,
    saved,
    draft,
    index,
    done,
    undone,
    state,
    problems,
    isFromBefore,
    conflict,
    open,
    change,
    edit,
    dropSession,
    asOne,
    apply,
    undo,
    redo,
    save,
    flush,
    keepTheirs,
    layMineOnTheirs,
    refresh,
    restore,
  }
})
