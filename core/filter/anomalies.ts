// Question: does every rule of a list have work to do, and work that none after it would do alike?
// Method: each rule against every pair of sides that packets can have; sides that the rules it meets do not
// tell apart are one.
// Source: shadowing and redundancy of ordered rules (Al-Shaer and Hamed, 2004, from memory).
import { ipv4, type Ipv4 } from '#core/address'
import {
  bitsBefore,
  bitsWhere,
  bothBits,
  distinctRows,
  eachShared,
  eitherBits,
  type BitRow,
} from '#core/util'
import { defineStage, isPairRule, selectorKey, type PlanIndex } from '#core/queries'
import type { Rule, Selector } from '#core/schema'
import { policiesOf, type CompiledPolicy } from './rules'
import { intersect, isNothing, minus, servicesOf, type ServiceSet } from './services'
import { packetEnds } from './packet-ends'

export type RuleVerdict =
  /** `parts`: of the services it names, those that earlier rules take all of. */
  | {
      readonly kind: 'works'
      readonly parts: readonly { readonly id: string; readonly by: readonly Rule[] }[]
    }
  /** Earlier rules decide all it speaks of. */
  | { readonly kind: 'shadowed'; readonly by: readonly Rule[] }
  /** Later rules would decide alike all that it decides, and the list's default the rest. */
  | { readonly kind: 'redundant'; readonly by: readonly Rule[]; readonly byDefault: boolean }
  /** No packet of the plan has such an end. */
  | { readonly kind: 'unmet'; readonly end: 'from' | 'to' }
export interface RuleList {
  readonly compiled: CompiledPolicy
  /**
   * By place in the list; null for the default of a pair, which need decide nothing, and for rules after so
   * many that there was no time for them.
   */
  readonly verdicts: readonly (RuleVerdict | null)[]
}

/** Words of bits that are compared for one list of rules at most; rules after that are not judged. */
const MOST_STEPS = 15_000_000

/** Rows of the sides that a rule speaks of. */
interface Ends {
  readonly from: readonly BitRow[]
  readonly to: readonly BitRow[]
}
/**
 * The same, its own place, and the rules of its chain, itself among them, that speak of some side it speaks
 * of.
 */
interface Overlap extends Ends {
  readonly at: number
  readonly overlapping: BitRow
}
type Entry = CompiledPolicy['rules'][number]

/** By place in the list of rules: the rows of bits that hold it. */
function rowsHolding(length: number, rows: readonly BitRow[]): BitRow[][] {
  const holders = Array.from({ length }, (): BitRow[] => [])
  for (const row of rows) eachShared(row, row, (i) => (holders[i] as BitRow[]).push(row) > 0)
  return holders
}

/** Which rules speak of the sides that each rule of a list speaks of. */
function overlapsOf(
  index: PlanIndex,
  { policy, matchBits: marks }: CompiledPolicy,
  outside: readonly Ipv4[] | null,
): readonly Overlap[] {
  const { rules } = policy
  const every = bitsWhere(rules.length, () => true)
  const sides = [
    ...packetEnds(index).filter((s) => s.via !== 'self' && (outside === null || s.via !== 'uplink')),
    ...(outside ?? []).map((address) => ({ via: 'uplink', address })),
  ].map((side) => marks(side))
  const holders = (rows: readonly BitRow[]) => rowsHolding(rules.length, distinctRows(rows, every))
  const from = holders(sides.map((m) => m.from))
  const to = holders(sides.map((m) => m.to))
  const self = rowsHolding(rules.length, [marks({ via: 'self', address: ipv4(0) }).to])
  const mixed = rules.some((r) => r.chain !== rules[0]?.chain)
  const chains = {
    forward: bitsWhere(rules.length, (n) => rules[n]?.chain === 'forward'),
    input: bitsWhere(rules.length, (n) => rules[n]?.chain === 'input'),
  }
  // Many rules speak of the same.
  const known = new Map<string, BitRow>()
  const speaking = (
    end: string,
    selector: Selector,
    rows: readonly BitRow[],
    chain: Rule['chain'],
  ): BitRow => {
    if (rows.length === 1 && !mixed) return rows[0] as BitRow
    const what = `${chain} ${end} ${selectorKey(selector)}`
    let made = known.get(what)
    if (!made) known.set(what, (made = bothBits(eitherBits(rows), chains[chain]) ?? []))
    return made
  }
  return rules.map((rule, at) => {
    const { chain } = rule
    const [froms, tos] = [from[at] ?? [], (chain === 'input' ? self : to)[at] ?? []]
    const met = bothBits(speaking('from', rule.from, froms, chain), speaking('to', rule.to, tos, chain))
    return { at, from: froms, to: tos, overlapping: met ?? [] }
  })
}

/**
 * True where a rule is there whenever one of a schedule is: one that is there at some times alone takes
 * nothing for good from one that is there at others.
 */
const holdsWith = (rule: Rule, when: string | null): boolean => rule.when === null || rule.when === when

/** The rules that speak of the two sides of a packet. */
interface PairOfSides {
  readonly from: BitRow
  readonly to: BitRow
}
/**
 * What the rules before one leave of some services between two sides; those that take some of it are noted.
 */
function remainderOf(
  compiled: CompiledPolicy,
  at: number,
  { from, to }: PairOfSides,
  services: ServiceSet,
  takers?: Set<Rule>,
): ServiceSet {
  const { rule: own } = compiled.rules[at] as Entry
  let open = services
  eachShared(
    from,
    to,
    (ordinal) => {
      const { rule, services: theirs } = compiled.rules[ordinal] as Entry
      if (rule.chain !== own.chain || !holdsWith(rule, own.when) || isNothing(intersect(open, theirs)))
        return true
      takers?.add(rule)
      open = minus(open, theirs)
      return !isNothing(open)
    },
    0,
    at,
  )
  return open
}

/** The earlier rules that take all of some services of a rule; null where it has work to do with them. */
function shadowingRules(
  compiled: CompiledPolicy,
  at: number,
  services: ServiceSet,
  { from, to }: Ends,
): Set<Rule> | null {
  const takers = new Set<Rule>()
  for (const bitRow of from)
    for (const second of to)
      if (!isNothing(remainderOf(compiled, at, { from: bitRow, to: second }, services, takers))) return null
  return takers
}

/** What earlier rules leave of one rule, and how many words of bits were compared for it. */
interface Shadow {
  readonly verdict: RuleVerdict
  readonly steps: number
}
function shadowOf(index: PlanIndex, compiled: CompiledPolicy, meeting: Overlap): Shadow {
  const { at, from, to } = meeting
  const { rule, services } = compiled.rules[at] as Entry
  const [oneFrom, oneTo] = [from[0], to[0]]
  if (!oneFrom || !oneTo) return { verdict: { kind: 'unmet', end: oneFrom ? 'to' : 'from' }, steps: 0 }
  const before = bitsBefore(meeting.overlapping, at)
  if (isNothing(services) || before.every((word) => word === 0))
    return { verdict: { kind: 'works', parts: [] }, steps: 0 }
  let steps = 0
  let all: Ends | null = null
  const takers = (of: ServiceSet) => {
    steps += meeting.overlapping.length
    // Of most rules one pair of sides is enough to see that they have work to do.
    if (!shadowingRules(compiled, at, of, { from: [oneFrom], to: [oneTo] })) return null
    all ??= { from: distinctRows(from, before), to: distinctRows(to, before) }
    steps += all.from.length * all.to.length * meeting.overlapping.length
    return shadowingRules(compiled, at, of, all)
  }
  const whole = takers(services)
  if (whole) return { verdict: { kind: 'shadowed', by: [...whole] }, steps }
  // Of a rule that is not idle some services may all the same be decided before it.
  const parts =
    rule.services.length < 2
      ? []
      : rule.services.flatMap((id) => {
          const by = takers(servicesOf([id], index.services))
          return by && by.size > 0 ? [{ id, by: [...by] }] : []
        })
  return { verdict: { kind: 'works', parts }, steps }
}

/**
 * Who would decide alike what a rule decides, were it gone; null where some of it would be decided otherwise,
 * or logged.
 */
function coveredByLater(
  compiled: CompiledPolicy,
  at: number,
  { from, to }: Ends,
  idle: ReadonlySet<Rule>,
): RuleVerdict | null {
  const { rule, services } = compiled.rules[at] as Entry
  // Made when there is the first: of most rules there is none.
  let heirs: Set<Rule> | null = null
  let byDefault = false
  for (const bitRow of from) {
    for (const second of to) {
      let open = remainderOf(compiled, at, { from: bitRow, to: second }, services)
      let alike = true
      if (!isNothing(open))
        eachShared(
          bitRow,
          second,
          (ordinal) => {
            const next = compiled.rules[ordinal] as Entry
            if (next.rule.chain !== rule.chain || isNothing(intersect(open, next.services))) return true
            alike = next.rule.action === rule.action && !next.rule.log
            // A rule that may go as well is no heir, but it must not decide otherwise while it is there.
            if (idle.has(next.rule)) return alike
            ;(heirs ??= new Set()).add(next.rule)
            if (holdsWith(next.rule, rule.when)) open = minus(open, next.services)
            return alike && !isNothing(open)
          },
          at + 1,
        )
      if (!alike) return null
      if (isNothing(open)) continue
      if (compiled.policy[rule.chain] !== rule.action) return null
      byDefault = true
    }
  }
  return { kind: 'redundant', by: [...(heirs ?? [])], byDefault }
}

/** Of most rules one pair of sides is enough to see that they are needed. */
function isNeeded(compiled: CompiledPolicy, meeting: Overlap, idle: ReadonlySet<Rule>): boolean {
  const { rule, services } = compiled.rules[meeting.at] as Entry
  const [from, to] = [meeting.from[0], meeting.to[0]]
  return (
    !from ||
    !to ||
    rule.log ||
    isNothing(services) ||
    coveredByLater(compiled, meeting.at, { from: [from], to: [to] }, idle) === null
  )
}

/** Judges every rule of a list, as far as the steps allow. */
function verdictsOf(index: PlanIndex, compiled: CompiledPolicy, outside: readonly Ipv4[] | null) {
  const { rules } = compiled.policy
  const meetings = overlapsOf(index, compiled, outside)
  let steps = 0
  const shadows = rules.map((rule, i): RuleVerdict | null => {
    if (steps > MOST_STEPS || isPairRule(rule.id)) return null
    const shadow = shadowOf(index, compiled, meetings[i] as Overlap)
    steps += shadow.steps
    return shadow.verdict
  })
  // From the last to the first, so that two rules never each rely on the other to decide alike.
  const idle = new Set(rules.filter((_, i) => shadows[i]?.kind === 'shadowed'))
  return shadows.reduceRight<(RuleVerdict | null)[]>((judged, verdict, i) => {
    const meeting = meetings[i] as Overlap
    judged[i] = verdict
    if (verdict?.kind !== 'works' || steps > MOST_STEPS || isNeeded(compiled, meeting, idle)) return judged
    const { overlapping: met } = meeting
    const ends = { from: distinctRows(meeting.from, met), to: distinctRows(meeting.to, met) }
    steps += ends.from.length * ends.to.length * met.length
    const covered = coveredByLater(compiled, i, ends, idle)
    if (covered) idle.add(rules[i] as Rule)
    judged[i] = covered ?? verdict
    return judged
  }, [])
}

const anomalies = defineStage(
  'rule anomalies',
  (index, outside: readonly Ipv4[] | null): readonly RuleList[] => {
    const always = new Set(index.plan.schedules.map((s) => s.id))
    return [...policiesOf(index, always).values()].map((compiled) => ({
      compiled,
      verdicts: verdictsOf(index, compiled, outside),
    }))
  },
)
/**
 * Of each gateway's list, what its rules are good for.
 * @param outside addresses that stand for everybody outside, where they are not the plan's own
 */
export const anomaliesOf = (index: PlanIndex, outside: readonly Ipv4[] | null): readonly RuleList[] =>
  index.get(anomalies, outside)
