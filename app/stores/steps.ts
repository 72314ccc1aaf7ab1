import { applyChanges, changesBetween } from '#core/edit'
import type { Plan } from '#core/schema'

/** One step of work that can be undone. */
export interface Step {
  readonly before: Plan
  readonly after: Plan
  readonly words: string
  /** Edits of one field in one go are one step. */
  readonly session: string
}

const MOST_STEPS = 500

/** Whether an edit of a session goes on with the step before it: nothing else has happened since. */
export const continuesStep = (session: string, last: Step | undefined, now: Plan): last is Step =>
  session !== '' && last?.session === session && last.after === now

/** The steps with one more, joined to the last where it goes on with it. */
export function withStep(
  steps: readonly Step[],
  step: Step,
): { readonly steps: readonly Step[]; readonly joined: boolean } {
  const last = steps.at(-1)
  const joined = continuesStep(step.session, last, step.before)
  const top = joined ? { ...step, before: last.before } : step
  return { steps: [...(joined ? steps.slice(0, -1) : steps), top].slice(-MOST_STEPS), joined }
}

/** A plan with a difference applied, even where others have changed other things; null where it no longer fits. */
export function withDifference(plan: Plan, from: Plan, to: Plan): Plan | null {
  if (plan === from) return to
  const result = applyChanges(plan, changesBetween(from, to))
  return result.ok ? result.value : null
}
