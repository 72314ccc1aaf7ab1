// Question: which addresses and interfaces do the rules of a gateway speak of, whatever they do about it?
// Method: the ends of its rules, and of its defaults for pairs after them.
// Source: the plan's own semantics; no figures used.
import { defineStage, expandPairDefaults, selectorKey } from '#core/queries'
import type { Rule, Selector, DeviceId } from '#core/schema'

type End = 'from' | 'to'
type RuleEnds = readonly Pick<Rule, 'chain' | End>[]
/** What the rules of a gateway speak of: the same for lists that differ in what their rules do about it. */
export const ruleEnds = defineStage(
  'ends of rules',
  ({ plan }, deviceId: DeviceId): RuleEnds => {
    const policy = plan.policies.find((p) => p.deviceId === deviceId)
    return policy ? expandPairDefaults(policy).rules : []
  },
  {
    equal: (a, b) => a.length === b.length && a.every((rule, i) => sameEnds(rule, b[i] as RuleEnds[number])),
  },
)
const sameEnds = (first: RuleEnds[number], second: RuleEnds[number]): boolean =>
  first === second ||
  (first.chain === second.chain && sameSelector(first.from, second.from) && sameSelector(first.to, second.to))
const sameSelector = (a: Selector, b: Selector): boolean => a === b || selectorKey(a) === selectorKey(b)
