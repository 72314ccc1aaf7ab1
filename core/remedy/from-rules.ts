// Question: which intents would say what the rules let through today?
// Method: one intent for each rule that accepts, of the services that no intent asks for yet; each is judged,
// and those that something else withholds are told apart: a rule before it, a port, a line.
// Source: the plan's own semantics; no figures used.
import { freshId } from '#core/edit'
import { indexPlan, expandPairDefaults, type PlanIndex } from '#core/queries'
import type { Intent, Plan, Rule } from '#core/schema'
import { subsumes, isNothing, minus, NOTHING, servicesOf, union } from '#core/filter'
import { openSite, verdictsOf } from '#core/reachability'

export interface FromRules {
  /** What passes, all of it, and no intent asks for. */
  readonly intents: readonly Intent[]
  /** What rules mean to let through and does not pass whole. */
  readonly withheld: readonly Intent[]
}

function intentOf(index: PlanIndex, rule: Rule, known: readonly Intent[]): Intent | null {
  const to = rule.chain === 'input' ? ({ kind: 'gateway' } as const) : rule.to
  const asked = known
    .filter(
      (i) =>
        (i.when === null || i.when === rule.when) &&
        subsumes(index, i.from, rule.from) &&
        subsumes(index, i.to, to),
    )
    .map((i) => servicesOf(i.services, index.services))
    .reduce(union, NOTHING)
  const open = (ids: readonly string[]) => !isNothing(minus(servicesOf(ids, index.services), asked))
  if (!open(rule.services)) return null
  return {
    id: freshId(known, `i-${rule.id.replaceAll(':', '-')}`),
    from: rule.from,
    to,
    services: rule.services.filter((id) => open([id])),
    survives: [],
    log: rule.log,
    when: rule.when,
    note: rule.note,
  }
}

/** Intents for what the accepting rules of every gateway let through unasked, in their order. */
export function intentsFromRules(plan: Plan): FromRules {
  const index = indexPlan(plan)
  const made: Intent[] = []
  for (const rule of plan.policies
    .flatMap((p) => expandPairDefaults(p).rules)
    .filter((r) => r.action === 'accept')) {
    const intent = intentOf(index, rule, [...plan.intents, ...made])
    if (intent) made.push(intent)
  }
  const lost = new Set(
    verdictsOf(openSite(index.of({ ...plan, intents: [...plan.intents, ...made] }), []), made)
      .filter((v) => !isNothing(v.missing))
      .map((v) => v.intentId),
  )
  return { intents: made.filter((i) => !lost.has(i.id)), withheld: made.filter((i) => lost.has(i.id)) }
}
