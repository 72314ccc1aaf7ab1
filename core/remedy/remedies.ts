// Question: what is the smallest change of the plan that satisfies an intent, and what else would it let pass
// or break?
// Method: each candidate is laid on the plan and the intent judged anew; where no single one does, those that
// take the flow further are tried with a second.
// Each answer is compared with the plan as it is, over the whole grid.
// Source: exhaustive search over the candidates, two changes deep; no figures used.
import { by } from '#core/util'
import { changesBetween, type Change } from '#core/edit'
import { indexPlan, type PlanIndex, type FailureScenario } from '#core/queries'
import type { Intent, Plan } from '#core/schema'
import { isNothing, minus, NOTHING } from '#core/filter'
import {
  matrixOf,
  openSite,
  verdictsOf,
  walkFlow,
  type FlowChange,
  type ReachabilityMatrix,
  type Walk,
} from '#core/reachability'
import { candidatesFor, type Candidate, type RemedyCode } from './candidates'

export interface Remedy {
  /** One change, or two that are needed together. */
  readonly parts: readonly { readonly code: RemedyCode; readonly values: Candidate['values'] }[]
  readonly changes: readonly Change[]
  /** Where something passes then that no intent asks for, and where something asked for no longer does. */
  readonly aside: readonly FlowChange[]
}

/** Candidates that a second change is sought for, and remedies told, at most. */
const MOST_HALVES = 6
const MOST_REMEDIES = 4

interface Judged {
  readonly candidate: Candidate
  readonly satisfied: boolean
  /** A flow that still does not pass, and its walk. */
  readonly walk: Walk | null
}

const endOf = (walk: Walk | null): string =>
  JSON.stringify(
    walk?.lines.slice(-2).map((l) => (l.kind === 'rule' ? [l.kind, l.deviceId, l.ruleId] : l)) ?? null,
  )

function judge(index: PlanIndex, candidate: Candidate, intent: Intent, scenario: FailureScenario): Judged {
  const site = openSite(index.of(candidate.after), scenario)
  const [verdict] = verdictsOf(site, [intent])
  const satisfied = verdict !== undefined && isNothing(verdict.missing)
  return {
    candidate,
    satisfied,
    walk: !satisfied && verdict?.example ? walkFlow(site, verdict.example) : null,
  }
}

/** What a plan lets pass unasked, and withholds, that it did not before. */
function asideOf(before: ReachabilityMatrix, after: ReachabilityMatrix): FlowChange[] {
  const was = new Map(before.cells.map((c) => [`${c.from}>${c.to}`, c]))
  return after.cells
    .filter((c) => c.judged)
    .flatMap((cell) => {
      const old = was.get(`${cell.from}>${cell.to}`)
      const [opened, closed] = [
        minus(cell.unexpected, old?.unexpected ?? NOTHING),
        minus(cell.missing, old?.missing ?? NOTHING),
      ]
      return isNothing(opened) && isNothing(closed) ? [] : [{ from: cell.from, to: cell.to, opened, closed }]
    })
}

/**
 * The smallest changes that satisfy an intent under a failure scenario, the best first: fewest changes, then least
 * aside.
 * Empty where the intent is satisfied, where nobody is there to ask it, or where no two candidates do.
 */
export function remediesFor(plan: Plan, intentId: string, scenario: FailureScenario): Remedy[] {
  const intent = plan.intents.find((i) => i.id === intentId)
  if (!intent) return []
  const site = openSite(indexPlan(plan), scenario)
  const [verdict] = verdictsOf(site, [intent])
  const walk = verdict?.example && !isNothing(verdict.missing) ? walkFlow(site, verdict.example) : null
  if (!walk || walk.passes) return []
  const judged = candidatesFor(site, intent, walk).map((candidate) =>
    judge(site.index, candidate, intent, scenario),
  )
  let found = judged.filter((j) => j.satisfied).map((j) => [j.candidate])
  if (found.length === 0) {
    const halves = judged.filter((j) => j.walk && endOf(j.walk) !== endOf(walk)).slice(0, MOST_HALVES)
    found = halves.flatMap(({ candidate, walk: next }) =>
      next === null
        ? []
        : candidatesFor(openSite(site.index.of(candidate.after), scenario), intent, next)
            .filter((second) => judge(site.index, second, intent, scenario).satisfied)
            .map((second) => [candidate, second]),
    )
  }
  const before = matrixOf(site)
  const told = new Map(
    found.map((parts) => {
      const after = parts.at(-1)?.after ?? plan
      const changes = changesBetween(plan, after)
      return [
        JSON.stringify(changes),
        {
          parts: parts.map(({ code, values }) => ({ code, values })),
          changes,
          aside: asideOf(before, matrixOf(openSite(site.index.of(after), scenario))),
        },
      ] as const
    }),
  )
  return [...told.values()]
    .sort(
      by(
        (r) => r.changes.length,
        (r) => r.aside.length,
      ),
    )
    .slice(0, MOST_REMEDIES)
}
