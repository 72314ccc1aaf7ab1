// Which single change of a gateway's rules could let an intent's flow pass?
import { freshId } from '#core/edit'
import { selectorKey } from '#core/queries'
import type { Intent, Plan, Policy, Rule } from '#core/schema'
import { ruleEnds, type Walk, type WalkLine } from '#core/reachability'
import { swap, type Candidate } from './candidate'

/** A rule that says what an intent does. */
const ruleFor = (
  policy: Policy,
  intent: Intent,
  chain: Rule['chain'],
  ends: Pick<Rule, 'from' | 'to'>,
): Rule => ({
  id: freshId(policy.rules, 'added'),
  chain,
  action: 'accept',
  ...ends,
  services: intent.services,
  note: intent.note,
  log: false,
  when: intent.when,
})

/** A rule that lets an intent's services through as well. */
const widened = (rule: Rule, { services }: Intent): Rule => ({
  ...rule,
  services: services.length === 0 ? [] : [...new Set([...rule.services, ...services])],
})

/** True of a rule that lets other services through between an intent's ends. */
const isAlike = (rule: Rule, intent: Intent, chain: Rule['chain']): boolean =>
  rule.action === 'accept' &&
  rule.chain === chain &&
  rule.services.length > 0 &&
  selectorKey(rule.from) === selectorKey(intent.from) &&
  selectorKey(rule.to) === selectorKey(intent.to)

export function ruleCandidates(
  plan: Plan,
  intent: Intent,
  walk: Walk,
  line: WalkLine & { kind: 'rule' },
): Candidate[] {
  const policy = plan.policies.find((p) => p.deviceId === line.deviceId)
  if (!policy) return []
  const { rules } = policy
  const ends = ruleEnds(plan, walk, line.deviceId, intent)
  const withRules = (after: readonly Rule[]): Plan => ({
    ...plan,
    policies: plan.policies.map((p) => (p === policy ? { ...p, rules: after } : p)),
  })
  // What no rule of the list decides, a default of all or of a pair, is decided after it.
  const found = rules.findIndex((r) => r.id === line.ruleId)
  const at = found === -1 ? rules.length : found
  const values = { device: line.deviceId, number: at + 1 }
  const [before, behind] = [rules.slice(0, at), rules.slice(at)]
  const below = rules.slice(at + 1).filter((r) => r.action === 'accept' && r.chain === line.chain)
  const alike = rules.filter((rule) => isAlike(rule, intent, line.chain))
  const widen = alike.map((rule): Candidate => ({
    code: 'widen-rule',
    values: { ...values, number: rules.indexOf(rule) + 1 },
    after: withRules(swap(rules, rule.id, (r) => widened(r, intent))),
  }))
  const add: Candidate = {
    code: 'add-rule',
    values,
    after: withRules([...before, ruleFor(policy, intent, line.chain, ends), ...behind]),
  }
  const move = below.map((rule): Candidate => ({
    code: 'move-rule',
    values: { ...values, from: rules.indexOf(rule) + 1 },
    after: withRules([...before, rule, ...behind.filter((r) => r !== rule)]),
  }))
  const remove: Candidate = {
    code: 'remove-rule',
    values,
    after: withRules(rules.filter((r) => r.id !== line.ruleId)),
  }
  return [...widen, add, ...move, ...(found === -1 ? [] : [remove])]
}
