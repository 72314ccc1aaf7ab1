// Question: what does an ordered rule list let through from one place to another?
// Method: first match, exactly: each rule takes its services out of what no rule has decided yet. Which rules speak of a side is
// kept as bits, so that only those that speak of both are met.
// Source: first-match semantics as of any packet filter with terminal verdicts (nftables' accept and drop).
import { byId, eachShared, memoOn, memoOnParts, memoOnText, noBits, setBit, type BitRow } from '#core/base'
import {
  membersOf,
  ruledWhole,
  type PlanIndex,
  type Policy,
  type Rule,
  type Selector,
  type Service,
} from '#core/model'
import { numbering, tellApart, tellingPrefixes } from './numbering'
import {
  distinct,
  fixedAs,
  matcherOf,
  nameOf,
  prefixesIn,
  spokenPrefixes,
  viaOf,
  type Matcher,
  type Side,
} from './selectors'
import {
  EVERYTHING,
  intersect,
  isNothing,
  minus,
  NOTHING,
  servicesOf,
  union,
  type ServiceSet,
} from './services'

/** What one rule, or the default (rule null), decided. */
export interface Decision {
  readonly rule: Rule | null
  readonly action: Rule['action']
  readonly services: ServiceSet
}

interface Entry {
  readonly rule: Rule
  readonly services: ServiceSet
}
/** Which rules speak of a side, as bits by their place in the list. */
export interface Marks {
  readonly from: BitRow
  readonly to: BitRow
}

/** Rules made ready to be asked many times. */
export interface CompiledPolicy {
  readonly policy: Policy
  readonly rules: readonly Entry[]
  /** What is known of sides; many hosts are of one kind. */
  marks(side: Side): Marks
}

/** Rule lists by device. */
export type Policies = ReadonlyMap<string, CompiledPolicy>

const compiledAt = memoOn((_index: PlanIndex) => new Map<string, Policies>())
/** The rule lists of a plan while some schedules hold; what is learnt of them under one weather holds under every other. */
export function policiesOf(index: PlanIndex, holding: ReadonlySet<string>): Policies {
  const [known, key] = [compiledAt(index), [...holding].join(' ')]
  let made = known.get(key)
  if (!made)
    known.set(
      key,
      (made = new Map(
        index.plan.policies.map((policy) => [
          policy.deviceId,
          compilePolicy(index, ruledWhole(policy), holding),
        ]),
      )),
    )
  return made
}

/** The set of each list of ids that names some of these services; an edit leaves most lists as they were. */
const servicesIn = memoOn((services: readonly Service[]) => {
  const named = byId(services)
  const known = memoOnText(4096, (ids) => servicesOf(ids === '' ? [] : ids.split(' '), named))
  return (ids: readonly string[]) => known(ids.join(' '))
})

/** A rule whose schedule does not hold keeps its place and takes nothing. */
export function compilePolicy(
  index: PlanIndex,
  policy: Policy,
  holding: ReadonlySet<string>,
): CompiledPolicy {
  const services = servicesIn(index.plan.services)
  const rules = policy.rules.map((rule) => ({
    rule,
    services: rule.when === null || holding.has(rule.when) ? services(rule.services) : NOTHING,
  }))
  return { policy, rules, marks: markerOf(index, policy) }
}

/** Largest number of places for which a place on an interface has one number. */
const SIDES = 2 ** 26
type End = 'from' | 'to'
const END: readonly End[] = ['from', 'to']
const ANY: Selector = { kind: 'any' }
function push<K>(map: Map<K, number[]>, key: K, i: number): void {
  const list = map.get(key)
  if (list) list.push(i)
  else map.set(key, [i])
}

/** Places in a list by what is said there of one end. */
class Listed {
  readonly always: number[] = []
  readonly inside: number[] = []
  readonly byVia = new Map<string, number[]>()
  /** By prefix: those that name it, or a device that has its one address. */
  readonly byPrefix = new Map<number, number[]>()
  readonly others: { readonly i: number; readonly speaks: Matcher }[] = []
  add(index: PlanIndex, selector: Selector, i: number): void {
    switch (selector.kind) {
      case 'any':
        return void this.always.push(i)
      case 'inside':
        return void this.inside.push(i)
      case 'network':
      case 'internet':
      case 'gateway':
      case 'tunnel':
        return push(this.byVia, viaOf(selector), i)
      case 'prefix':
      case 'device':
        return prefixesIn(index, selector).forEach((p) => push(this.byPrefix, nameOf(p), i))
      case 'peer':
        return void this.others.push({ i, speaks: matcherOf(index, selector) })
      case 'group':
        return membersOf(index, selector).forEach((m) => this.add(index, m, i))
    }
  }
}

type MarksOf = (side: Side) => Marks
/** What rules speak of is kept while no rule speaks of anything else, and addresses are told apart alike; what they do about it may change. */
const lastMarks = memoOnParts<MarksOf>(8)
function markerOf(index: PlanIndex, policy: Policy): MarksOf {
  const { networks, tunnels, groups } = index.plan
  const said: unknown[] = [tunnels, groups, networks.map((n) => n.id).join(' '), fixedAs(index)]
  for (const { chain, from, to } of policy.rules) said.push(chain, from, to)
  return lastMarks(tellApart(index), said, () => marker(index, policy))
}

const NONE: readonly never[] = []
/** Answers which rules of a list speak of a side: what is said of its interface is found once. */
function marker(index: PlanIndex, policy: Policy): MarksOf {
  const { prefixes, around } = numbering(
    distinct([...tellingPrefixes(index), ...spokenPrefixes(index, policy.rules)]),
  )
  const [said, rows] = [{ from: new Listed(), to: new Listed() }, () => noBits(policy.rules.length)]
  policy.rules.forEach((rule, i) =>
    END.forEach((end) => said[end].add(index, end === 'to' && rule.chain === 'input' ? ANY : rule[end], i)),
  )
  const names = prefixes.map(nameOf)
  const vias = new Map<string, Marks & { readonly id: number }>()
  const known = new Map<number, Marks>()
  const viaBits = (via: string) => {
    const held = vias.get(via)
    if (held) return held
    const bits = (end: End) => {
      const words = rows()
      for (const list of [
        said[end].always,
        index.networks.has(via) ? said[end].inside : [],
        said[end].byVia.get(via) ?? [],
      ])
        for (const i of list) setBit(words, i)
      return words
    }
    const made = { id: vias.size, from: bits('from'), to: bits('to') }
    vias.set(via, made)
    return made
  }
  return (side) => {
    const via = viaBits(side.via)
    const { number, inside } = around(side.address)
    const key = via.id * SIDES + number
    const held = known.get(key)
    if (held) return held
    const join = (end: End): BitRow => {
      const { others, byPrefix } = said[end]
      // Of most addresses no rule says more than of their interface.
      let words: number[] | null = null
      for (const p of inside)
        for (const i of byPrefix.get(names[p] as number) ?? NONE) setBit((words ??= via[end].slice()), i)
      for (const { i, speaks } of others) if (speaks(side)) setBit((words ??= via[end].slice()), i)
      return words ?? via[end]
    }
    const made = { from: join('from'), to: join('to') }
    known.set(key, made)
    return made
  }
}

/** Who decides what, in order, for new connections from one side to the other. The sets are disjoint and cover all. */
export function decide(
  compiled: CompiledPolicy,
  chain: Rule['chain'],
  from: Side,
  to: Side,
): readonly Decision[] {
  return decideMarked(compiled, chain, compiled.marks(from), compiled.marks(to))
}

/** The same for sides whose marks are known. */
export function decideMarked(
  compiled: CompiledPolicy,
  chain: Rule['chain'],
  { from }: Marks,
  { to }: Marks,
): readonly Decision[] {
  const decisions: Decision[] = []
  let open: ServiceSet = EVERYTHING
  eachShared(from, to, (i) => {
    const entry = compiled.rules[i] as Entry
    const taken = entry.rule.chain === chain ? intersect(open, entry.services) : NOTHING
    if (isNothing(taken)) return true
    decisions.push({ rule: entry.rule, action: entry.rule.action, services: taken })
    open = minus(open, taken)
    return !isNothing(open)
  })
  if (!isNothing(open)) decisions.push({ rule: null, action: compiled.policy[chain], services: open })
  return decisions
}

/** What a list lets through of sides that none of its rules speaks of. */
export const byDefault = ({ policy }: CompiledPolicy, chain: Rule['chain']): ServiceSet =>
  policy[chain] === 'accept' ? EVERYTHING : NOTHING

/** What a list of decisions lets through. */
export function accepted(decisions: readonly Decision[]): ServiceSet {
  let set: ServiceSet = NOTHING
  for (const decision of decisions) if (decision.action === 'accept') set = union(set, decision.services)
  return set
}
