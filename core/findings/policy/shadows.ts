// Question: which rules could go, or never get to what they name, or speak of nobody?
// Method: each rule by both families: what is idle by IPv4 may have work by IPv6, and is told only where it
// has none.
import { anomaliesOf, type RuleVerdict } from '#core/filter'
import { isPairRule, type PlanIndex } from '#core/queries'
import type { Policy, Rule } from '#core/schema'
import { ipv6ProjectionOf } from '#core/reachability'
import { draft, removed, set, type Draft, type Mend } from '../finding'
import { nameOfEnd, nameOfFlow } from '#core/reachability'

/** What a rule is good for by both families together. */
function together(ipv4: RuleVerdict | null, ipv6: RuleVerdict | null | undefined): RuleVerdict | null {
  if (ipv6 === undefined) return ipv4
  if (ipv4 === null || ipv6 === null) return null
  if (ipv6.kind === 'unmet') return ipv4
  if (ipv4.kind === 'unmet') return ipv6
  if (ipv4.kind === 'works' || ipv6.kind === 'works') {
    const parts = (v: RuleVerdict) => (v.kind === 'works' ? v.parts : null)
    const [first, second] = [parts(ipv4), parts(ipv6)]
    return {
      kind: 'works',
      parts: (first ?? second ?? []).filter(
        ({ id }) => !first || !second || second.some((other) => other.id === id),
      ),
    }
  }
  // Idle by one and to be spared by the other: it could go.
  return ipv4.kind === 'redundant' ? ipv4 : ipv6
}

type Works = Extract<RuleVerdict, { kind: 'works' }>
type Idle = Exclude<RuleVerdict, Works>

/** A rule within its policy. */
interface Placed {
  readonly rule: Rule
  readonly place: readonly string[]
  /** From 1. */
  readonly number: number
  /** Numbers of other rules of the policy, as a text. */
  readonly numbersOf: (rules: readonly Rule[]) => string
}

const NONE: readonly never[] = []

/** Services of a rule that others decide before it, and otherwise. */
function serviceFindings(
  index: PlanIndex,
  { rule, place, number, numbersOf }: Placed,
  { parts }: Works,
): Draft[] {
  return parts
    .filter(({ by }) => by.every((other) => other.action !== rule.action))
    .map(({ id, by }) => {
      const service = index.services.get(id)?.name ?? id
      const at = [...place, 'services']
      const left = rule.services.filter((s) => s !== id)
      const mend: Mend = {
        code: 'drop-service',
        values: { number, service },
        changes: [set(at, rule.services, left)],
      }
      return draft('P03', 'warning', at, { number, service, by: numbersOf(by), key: id }, mend)
    })
}

function idleFinding(index: PlanIndex, { rule, place, number, numbersOf }: Placed, verdict: Idle): Draft {
  const mend: Mend = { code: 'remove-rule', values: { number }, changes: [removed(place, rule)] }
  const values = { number, note: nameOfFlow(index, rule) }
  if (verdict.kind === 'unmet') {
    const who = nameOfEnd(index, rule[verdict.end])
    return draft('P10', 'note', place, { ...values, end: verdict.end, who }, mend)
  }
  if (verdict.kind === 'shadowed')
    return draft('P02', 'warning', place, { ...values, by: numbersOf(verdict.by) }, mend)
  // What the default of a pair decides stands behind all rules, as the default of all does.
  const by = verdict.by.filter((other) => !isPairRule(other.id))
  const byDefault = verdict.byDefault || by.length < verdict.by.length
  return draft('P09', 'note', place, { ...values, by: numbersOf(by), byDefault }, mend)
}

function policyFindings(
  index: PlanIndex,
  policy: Policy,
  verdictAt: (i: number) => RuleVerdict | null,
): readonly Draft[] {
  const places = new Map(policy.rules.map((rule, i) => [rule.id, i + 1]))
  const numbersOf = (rules: readonly Rule[]) =>
    rules
      .map((r) => places.get(r.id) ?? 0)
      .sort((a, b) => a - b)
      .join(', ')
  return policy.rules.flatMap((rule, i): readonly Draft[] => {
    const verdict = verdictAt(i)
    if (!verdict || (verdict.kind === 'works' && verdict.parts.length === 0)) return NONE
    const placed = { rule, place: ['policies', policy.deviceId, 'rules', rule.id], number: i + 1, numbersOf }
    if (verdict.kind === 'works') return serviceFindings(index, placed, verdict)
    return [idleFinding(index, placed, verdict)]
  })
}

/**
 * Rules that never match, services of rules that others decide first and otherwise, rules without which
 * nothing would change.
 */
export function shadowFindings(index: PlanIndex): Draft[] {
  const projection = ipv6ProjectionOf(index)
  const ipv6 = projection && anomaliesOf(index.of(projection.plan), projection.outside)
  return anomaliesOf(index, null).flatMap(({ compiled: { policy }, verdicts }, part) =>
    policyFindings(index, policy, (i) =>
      together(verdicts[i] ?? null, ipv6 ? (ipv6[part]?.verdicts[i] ?? null) : undefined),
    ),
  )
}
