// Question: does every rule of a list have work to do?
// Method: each rule against every pair of sides the plan can produce; sides that the earlier rules it meets do not tell apart are
// one. What is found hangs on those earlier rules alone and is kept: an edit of one rule asks again for those it meets.
// Source: first-match rule anomalies (shadowing) as any packet filter has them; no published figures used.
import { ipv4 } from '#core/address'
import { bitsBefore, bitsWhere, bothBits, distinctRows, eachShared, eitherBits, memoOnParts, same, type BitRow } from '#core/base'
import { isPairRule, signOf, type Json, type PlanIndex, type Rule } from '#core/model'
import { intersect, isNothing, minus, policiesOf, servicesOf, sidesOf, type CompiledPolicy, type ServiceSet } from '#core/policy'
import { draft, set, type Draft } from './finding'

/** Words of bits that are compared for one list of rules at most; rules after that are not judged. */
const MOST_STEPS = 15_000_000

/** What earlier rules leave of one rule. */
interface Shadow {
  /** The earlier rules that speak of some packet it speaks of: all that the rest hangs on. */
  readonly met: readonly Rule[]
  /** Those that take all its services; null where it has work to do, or no packet it speaks of. */
  readonly whole: ReadonlySet<Rule> | null
  /** Of a rule that has work to do, the services that others take all of, by id. */
  readonly parts: readonly { readonly id: string; readonly by: ReadonlySet<Rule> }[]
  readonly steps: number
}
const shadowsOn = memoOnParts<WeakMap<Rule, Shadow>>(4)

/** By place in the list of rules: the rows of bits that hold it. */
function holdersOf(length: number, rows: readonly BitRow[]): BitRow[][] {
  const holders = Array.from({ length }, (): BitRow[] => [])
  for (const row of rows) eachShared(row, row, (i) => (holders[i] as BitRow[]).push(row) > 0)
  return holders
}

/** The earlier rules that take all of some services of a rule; null where it has work to do with them. */
function eatersOf(compiled: CompiledPolicy, when: string | null, met: BitRow, services: ServiceSet, { from, to }: Pick<Meeting, 'from' | 'to'>): Set<Rule> | null {
  const eaten = new Set<Rule>()
  for (const a of from) {
    const mine = bothBits(met, a)
    for (const b of to) {
      let open = services
      if (mine) eachShared(mine, b, (n) => {
        const earlier = compiled.rules[n] as CompiledPolicy['rules'][number]
        // A rule that is there at some times alone takes nothing for good from one that is there at others.
        if (earlier.rule.when !== null && earlier.rule.when !== when) return true
        if (isNothing(intersect(open, earlier.services))) return true
        eaten.add(earlier.rule)
        open = minus(open, earlier.services)
        return !isNothing(open)
      })
      if (!isNothing(open)) return null
    }
  }
  return eaten
}

function shadowOf(index: PlanIndex, compiled: CompiledPolicy, i: number, met: BitRow, list: readonly Rule[], from: readonly BitRow[], to: readonly BitRow[]): Shadow {
  const { rule, services } = compiled.rules[i] as CompiledPolicy['rules'][number]
  const [oneFrom, oneTo] = [from[0], to[0]]
  if (!oneFrom || !oneTo || isNothing(services) || list.length === 0) return { met: list, whole: null, parts: [], steps: 0 }
  let steps = 0
  const one = { from: [oneFrom], to: [oneTo] }
  let all: Pick<Meeting, 'from' | 'to'> | null = null
  const eaters = (of: ServiceSet) => {
    steps += met.length
    // Of most rules one pair of sides is enough to see that they have work to do.
    if (!eatersOf(compiled, rule.when, met, of, one)) return null
    all ??= { from: distinctRows(from, met), to: distinctRows(to, met) }
    steps += all.from.length * all.to.length * met.length
    return eatersOf(compiled, rule.when, met, of, all)
  }
  const whole = eaters(services)
  // Of a rule that is not idle some services may all the same be decided before it.
  const parts = whole || rule.services.length < 2 ? [] : rule.services.flatMap((id) => {
    const by = eaters(servicesOf([id], index.services))
    return by && by.size > 0 ? [{ id, by }] : []
  })
  return { met: list, whole, parts, steps }
}

/** By place in a list of rules: the rows of sides that it speaks of, and the earlier rules of its chain that speak of some side it speaks of. */
interface Meeting {
  readonly from: readonly BitRow[]
  readonly to: readonly BitRow[]
  readonly met: BitRow
}
/** Kept while no rule speaks of anything else, as what they speak of is. */
const meetingsOn = memoOnParts<readonly Meeting[]>(2)
function meetingsOf(index: PlanIndex, { policy, marks }: CompiledPolicy): readonly Meeting[] {
  const { rules } = policy
  return meetingsOn(marks, [], () => {
    const all = bitsWhere(rules.length, () => true)
    const sides = sidesOf(index).filter((s) => s.via !== 'self').map((side) => marks(side))
    const from = holdersOf(rules.length, distinctRows(sides.map((m) => m.from), all))
    const to = holdersOf(rules.length, distinctRows(sides.map((m) => m.to), all))
    const self = holdersOf(rules.length, [marks({ via: 'self', address: ipv4(0) }).to])
    const chains = { forward: bitsWhere(rules.length, (n) => rules[n]?.chain === 'forward'), input: bitsWhere(rules.length, (n) => rules[n]?.chain === 'input') }
    // Many rules speak of the same.
    const known = new Map<string, BitRow>()
    const either = (what: string, rows: readonly BitRow[]) => {
      let made = known.get(what)
      if (!made) known.set(what, (made = eitherBits(rows)))
      return made
    }
    return rules.map((rule, i) => {
      const { chain } = rule
      const [froms, tos] = [from[i] ?? [], (chain === 'input' ? self : to)[i] ?? []]
      const met = bothBits(either(`from ${signOf(rule.from)}`, froms), either(chain === 'input' ? 'input' : `to ${signOf(rule.to)}`, tos))
      return { from: froms, to: tos, met: bitsBefore((met && bothBits(met, chains[chain])) ?? [], i) }
    })
  })
}

/** Rules that never match, and services of rules that others decide first and otherwise. */
export function shadowFindings(index: PlanIndex): Draft[] {
  const { networks, tunnels, services, devices, groups } = index.plan
  const known = shadowsOn(networks, [tunnels, services, devices, groups], () => new WeakMap())
  const always = new Set(index.plan.schedules.map((s) => s.id))
  return [...policiesOf(index, always).values()].flatMap((compiled) => {
    const { policy } = compiled
    const meetings = meetingsOf(index, compiled)
    const places = new Map(policy.rules.map((rule, i) => [rule, i + 1]))
    const numbers = (eaters: ReadonlySet<Rule>) => [...eaters].map((r) => places.get(r) ?? 0).sort((a, b) => a - b)
    let spent = 0
    return policy.rules.flatMap((rule, i): Draft[] => {
      // The default of a pair may find nothing left to decide: that is no mistake.
      if (spent > MOST_STEPS || isPairRule(rule.id)) return []
      const { from, to, met } = meetings[i] as Meeting
      const list: Rule[] = []
      eachShared(met, met, (n) => list.push(policy.rules[n] as Rule) > 0)
      let shadow = known.get(rule)
      if (!shadow || !same(shadow.met, list)) known.set(rule, (shadow = shadowOf(index, compiled, i, met, list, from, to)))
      spent += shadow.steps
      const { whole, parts } = shadow
      if (whole === null) {
        return parts.filter(({ by }) => [...by].every((r) => r.action !== rule.action)).map(({ id, by }) =>
          draft('P03', 'warning', ['policies', policy.deviceId, 'rules', rule.id, 'services'], { number: i + 1, service: index.services.get(id)?.name ?? id, by: numbers(by).join(', '), key: id }, { code: 'drop-service', values: { number: i + 1, service: index.services.get(id)?.name ?? id }, changes: [set(['policies', policy.deviceId, 'rules', rule.id, 'services'], rule.services, rule.services.filter((s) => s !== id))] }))
      }
      return [{
        code: 'P02', severity: 'warning', place: ['policies', policy.deviceId, 'rules', rule.id], values: { number: i + 1, note: rule.note, by: numbers(whole).join(', ') },
        mend: { code: 'remove-rule', values: { number: i + 1 }, changes: [{ kind: 'removed', path: ['policies', policy.deviceId, 'rules', rule.id], before: rule as unknown as Json, after: null }] },
      }]
    })
  })
}
