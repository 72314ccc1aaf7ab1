import { produce } from 'immer'
import type { PlanAt } from '#contracts/api'
import { patchBetween } from '#contracts/patch'
import type { Problem } from '#core/util'
import { problem } from '#core/util'
import { applyChanges, changesBetween, withoutDangling, withPrintableTexts, type Change } from '#core/edit'
import { printableLine } from '#core/format'
import { createEngine } from '#core/queries'
import type { Draft, Plan } from '#core/schema'
import { api } from './api'
import { takeEarly } from './plan-preload'

/** A pause in typing after which work is saved. */
const SAVE_AFTER_MS = 900
const MOST_UNDO = 500
const MOST_WORDS = 300

interface Step {
  readonly before: Plan
  readonly after: Plan
  readonly words: string
  /** Edits of one field in one go are one step. */
  readonly session: string
}

export interface Conflict {
  readonly base: Plan
  readonly mine: Plan
  readonly theirs: PlanAt
  readonly words: string
}

type SaveState = 'saved' | 'unsaved' | 'saving' | 'failed' | 'conflict'

export type PlanDraft = Draft<Plan>

/** The plan being worked on: the newest saved revision, the draft on top of it, and the way back. */
export const usePlan = defineStore('plan', () => {
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
  const conflict = shallowRef<Conflict | null>(null)
  let unsavedWords: string[] = []
  let timer: ReturnType<typeof setTimeout> | undefined

  async function open(wanted: string): Promise<void> {
    if (slug.value === wanted && saved.value) return
    await flush()
    slug.value = wanted
    saved.value = draft.value = null
    done.value = undone.value = []
    conflict.value = null
    loading.value = 'yes'
    // An early answer may be a refusal from before one signed in.
    const early = await takeEarly(wanted)
    const answer = early?.ok ? early : await api<PlanAt>('GET', `sites/${wanted}/plan`)
    loading.value = answer.ok ? 'no' : 'failed'
    if (!answer.ok) {
      problems.value = answer.refusal.problems
      return
    }
    settle(answer.value)
  }

  function settle(answer: PlanAt): void {
    saved.value = answer
    draft.value = answer.plan
    state.value = 'saved'
    problems.value = []
    unsavedWords = []
  }

  function take(after: Plan, words: string): void {
    draft.value = after
    unsavedWords.push(printableLine(words))
    if (state.value === 'conflict') return
    if (state.value !== 'saving') state.value = 'unsaved'
    clearTimeout(timer)
    timer = setTimeout(() => void save(), SAVE_AFTER_MS)
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
    const after = make(joins(session, last, now) ? last.before : now)
    if (after === now) return
    push(now, after, words, session)
  }

  /** The same by a recipe that writes into a draft. */
  function edit(words: string, session: string, recipe: (plan: PlanDraft) => void): void {
    change(words, session, (before) => produce(before, recipe as (plan: unknown) => void))
  }

  function joins(session: string, last: Step | undefined, now: Plan): last is Step {
    return session !== '' && last?.session === session && last.after === now
  }

  /** Takes back the newest step where it is of one session, as if it had never been; false where it is not. */
  function dropSession(session: string): boolean {
    const [last, now] = [done.value.at(-1), draft.value]
    if (!now || !joins(session, last, now)) return false
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
    const last = done.value.at(-1)
    const joined = joins(session, last, before)
    const step: Step = joined ? { ...last, after, words } : { before, after, words, session }
    if (joined) unsavedWords.pop()
    done.value = [...(joined ? done.value.slice(0, -1) : done.value), step].slice(-MOST_UNDO)
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

  /** The plan with a step taken back, even where others have changed other things since. */
  function without(step: { from: Plan; to: Plan }): Plan | null {
    if (!draft.value) return null
    if (draft.value === step.from) return step.to
    const result = applyChanges(draft.value, changesBetween(step.from, step.to))
    return result.ok ? result.value : null
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
    const after = without(ends(step))
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

  async function save(): Promise<void> {
    clearTimeout(timer)
    const [base, mine] = [saved.value, draft.value]
    if (!base || !mine || state.value === 'saving' || state.value === 'conflict') return
    const patch = patchBetween(base.plan, mine)
    if (patch.length === 0) {
      state.value = 'saved'
      unsavedWords = []
      return
    }
    const told = unsavedWords
    const words = [...new Set(told)].join('; ').slice(0, MOST_WORDS)
    unsavedWords = []
    state.value = 'saving'
    const answer = await api<PlanAt>('PATCH', `sites/${base.slug}/plan`, {
      baseRevision: base.revision,
      patch,
      words,
    })
    if (answer.ok) {
      saved.value = { ...answer.value, plan: mine }
      problems.value = []
      state.value = draft.value === mine ? 'saved' : 'unsaved'
      if (state.value === 'unsaved') timer = setTimeout(() => void save(), SAVE_AFTER_MS)
      return
    }
    unsavedWords = [...told, ...unsavedWords]
    problems.value = answer.refusal.problems
    const theirs = answer.refusal.current
    if (theirs) {
      conflict.value = { base: base.plan, mine: draft.value ?? mine, theirs, words }
      state.value = 'conflict'
    } else state.value = 'failed'
  }

  /** Saves now what is not saved yet. */
  async function flush(): Promise<void> {
    if (state.value === 'unsaved') await save()
  }

  function keepTheirs(): void {
    if (!conflict.value) return
    settle(conflict.value.theirs)
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
    const mine = draft.value
    const result = applyChanges(now.theirs.plan, changesBetween(now.base, mine))
    if (!result.ok) {
      problems.value = result.problems
      return false
    }
    settle(now.theirs)
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
    const answer = await api<PlanAt>('GET', `sites/${slug.value}/plan`)
    if (!answer.ok || draft.value !== held || answer.value.revision <= (saved.value?.revision ?? 0)) return
    settle(answer.value)
  }

  async function restore(revision: number): Promise<readonly Problem[]> {
    await flush()
    if (!saved.value) return []
    const answer = await api<PlanAt>('POST', `sites/${slug.value}/restore`, {
      baseRevision: saved.value.revision,
      revision,
    })
    if (!answer.ok) return answer.refusal.problems
    settle(answer.value)
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
