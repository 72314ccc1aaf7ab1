import type { PlanAt } from '#contracts/api'
import { applyChanges, changesBetween, changesNotIn } from '#core/edit'
import type { Plan } from '#core/schema'
import type { Result } from '#core/util'

/** Two people changed the same plan: what both began from, one's own version and the saved one. */
export interface Conflict {
  readonly base: Plan
  readonly mine: Plan
  readonly theirs: PlanAt
  readonly words: string
}

/**
 * Which of one's own versions theirs was made from: the newest saved one, or one that was sent and, though
 * no answer came, arrived.
 */
export function mergeBase(saved: Plan, unacknowledged: readonly Plan[], theirs: Plan): Plan {
  const arrived = unacknowledged.filter((sent) => changesNotIn(saved, sent, theirs).length === 0)
  const distance = (plan: Plan) => changesBetween(plan, theirs).length
  return arrived.reduce((best, plan) => (distance(plan) < distance(best) ? plan : best), saved)
}

/** One's own changes laid on the other version; refused where any of them does not fit. */
export const rebasedOnTheirs = ({ base, theirs }: Conflict, mine: Plan): Result<Plan> =>
  applyChanges(theirs.plan, changesNotIn(base, mine, theirs.plan))
