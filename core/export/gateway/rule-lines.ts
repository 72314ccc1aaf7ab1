// Question: is a plan's ruleset one that a gateway could load, and a browser write?
// Method: the members at both ends of each rule, multiplied, without writing any.
import { expandPairDefaults, membersOf, type PlanIndex } from '#core/queries'
import type { Rule } from '#core/schema'

/** Lines of all rulesets of a plan; `nft -f` took 41 s for 10,000 on a busy machine. */
export const MOST_RULE_LINES = 20_000

/** A rule has one line for each pair of members and each protocol of its services. */
function linesOf(index: PlanIndex, { from, to, services, chain }: Rule): number {
  const froms = membersOf(index, from).length
  const tos = chain === 'input' ? 1 : membersOf(index, to).length
  const entries = services.flatMap((id) => index.services.get(id)?.entries ?? [])
  const protocols = new Set(entries.map(({ proto }) => proto)).size
  return froms * tos * Math.max(1, protocols)
}

/** About how many lines the rules of a plan are written as, and the rule that makes most of them. */
export function countRuleLines(index: PlanIndex): { readonly count: number; readonly place: string } {
  let [count, most, place] = [0, 0, 'policies']
  index.plan.policies.forEach((policy, nth) =>
    expandPairDefaults(policy).rules.forEach((rule, i) => {
      const lines = linesOf(index, rule)
      count += lines
      if (lines <= most) return
      most = lines
      const pair = i - policy.rules.length
      place = pair < 0 ? `policies[${nth}].rules[${i}]` : `policies[${nth}].pairs[${pair}]`
    }),
  )
  return { count, place }
}
