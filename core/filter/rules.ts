// Question: what does an ordered rule list let through from one place to another?
// Method: first match, exactly: each rule takes its services out of what no rule has decided yet.
// Which rules speak of a side is kept as bits, so that only those that speak of both are met.
// Source: first-match semantics as of any packet filter with terminal verdicts (nftables' accept and drop).
import { eachShared, noBits, setBit, type BitRow, type Bits } from '#core/util'
import { defineStage, membersOf, expandPairDefaults, type PlanIndex } from '#core/queries'
import type { Policy, Rule, Selector, DeviceId } from '#core/schema'
import { addressAtoms } from './address-atoms'
import { ruleEnds } from './rule-ends'
import { matcherOf, prefixName, prefixesIn, interfaceNamed, type Matcher, type PacketEnd } from './selectors'
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
export interface RuleMatchBits {
  readonly from: BitRow
  readonly to: BitRow
}

/** Rules made ready to be asked many times. */
export interface CompiledPolicy {
  readonly policy: Policy
  readonly rules: readonly Entry[]
  /** What is known of sides; many hosts are of one kind. */
  matchBits(side: PacketEnd): RuleMatchBits
}

/** Rule lists by device. */
export type Policies = ReadonlyMap<string, CompiledPolicy>

/** The rule lists of a plan while some schedules hold. */
export const policiesOf = (index: PlanIndex, holding: ReadonlySet<string>): Policies =>
  index.get(filters, holding)
const filters = defineStage(
  'filters',
  (index, holding: ReadonlySet<string>): Policies =>
    new Map(
      index.plan.policies.map((policy) => [
        policy.deviceId,
        compilePolicy(index, expandPairDefaults(policy), holding),
      ]),
    ),
  { keyText: (holding) => [...holding].join(' ') },
)

/** A rule whose schedule does not hold keeps its place and takes nothing. */
export function compilePolicy(
  index: PlanIndex,
  policy: Policy,
  holding: ReadonlySet<string>,
): CompiledPolicy {
  const { services } = index
  const known = new Map<string, ServiceSet>()
  const setOf = (ids: readonly string[]): ServiceSet => {
    const key = ids.join(' ')
    let set = known.get(key)
    if (!set) known.set(key, (set = servicesOf(ids, services)))
    return set
  }
  const rules = policy.rules.map((rule) => ({
    rule,
    services: rule.when === null || holding.has(rule.when) ? setOf(rule.services) : NOTHING,
  }))
  return { policy, rules, matchBits: index.get(rulesMatched, policy.deviceId) }
}

const ANY: Selector = { kind: 'any' }
function push<K>(map: Map<K, number[]>, key: K, place: number): void {
  const list = map.get(key)
  if (list) list.push(place)
  else map.set(key, [place])
}

/** Places in a list of rules by what is said there of one end. */
class SelectorIndex {
  readonly always: number[] = []
  readonly inside: number[] = []
  readonly byVia = new Map<string, number[]>()
  /** By prefix: those that name it, or a device that has its one address. */
  readonly byPrefix = new Map<number, number[]>()
  readonly others: { readonly place: number; readonly matches: Matcher }[] = []

  add(index: PlanIndex, selector: Selector, place: number): void {
    switch (selector.kind) {
      case 'any':
        return void this.always.push(place)
      case 'inside':
        return void this.inside.push(place)
      case 'network':
      case 'internet':
      case 'gateway':
      case 'tunnel':
        return push(this.byVia, interfaceNamed(selector), place)
      case 'prefix':
      case 'device':
        return prefixesIn(index, selector).forEach((p) => push(this.byPrefix, prefixName(p), place))
      case 'peer':
        return void this.others.push({ place, matches: matcherOf(index, selector) })
      case 'group':
        return membersOf(index, selector).forEach((member) => this.add(index, member, place))
    }
  }

  /** Places that speak of an interface, whatever the address. */
  ofInterface(via: string, isNetwork: boolean, length: number): BitRow {
    const bits = noBits(length)
    for (const list of [this.always, isNetwork ? this.inside : NONE, this.byVia.get(via) ?? NONE])
      for (const place of list) setBit(bits, place)
    return bits
  }

  /** The same, and those that speak of the address. @param prefixes names of those it lies in */
  ofSide(side: PacketEnd, prefixes: readonly number[], ofInterface: BitRow): BitRow {
    // Of most addresses no rule says more than of their interface.
    let bits: Bits | null = null
    const own = () => (bits ??= ofInterface.slice())
    for (const prefix of prefixes) for (const place of this.byPrefix.get(prefix) ?? NONE) setBit(own(), place)
    for (const { place, matches } of this.others) if (matches(side)) setBit(own(), place)
    return bits ?? ofInterface
  }
}
const NONE: readonly never[] = []

/**
 * Answers which rules of a gateway's list speak of a side: what is said of its interface is found once, and
 * of each atom once.
 */
const rulesMatched = defineStage('rule match bits', (index, deviceId: DeviceId) => {
  const rules = index.get(ruleEnds, deviceId)
  const networks = index.networkHeads
  const { prefixes, atomAt } = addressAtoms(index)
  const names = prefixes.map(prefixName)
  const said = { from: new SelectorIndex(), to: new SelectorIndex() }
  rules.forEach((rule, place) => {
    said.from.add(index, rule.from, place)
    said.to.add(index, rule.chain === 'input' ? ANY : rule.to, place)
  })
  const ofInterface = (via: string): RuleMatchBits => ({
    from: said.from.ofInterface(via, networks.has(via), rules.length),
    to: said.to.ofInterface(via, networks.has(via), rules.length),
  })
  const known = new Map<
    string,
    { readonly own: RuleMatchBits; readonly byAtom: Map<number, RuleMatchBits> }
  >()
  return (side: PacketEnd): RuleMatchBits => {
    let via = known.get(side.via)
    if (!via) known.set(side.via, (via = { own: ofInterface(side.via), byAtom: new Map() }))
    const { number, inside } = atomAt(side.address)
    let bits = via.byAtom.get(number)
    if (!bits) {
      const prefixNames = inside.map((place) => names[place] as number)
      bits = {
        from: said.from.ofSide(side, prefixNames, via.own.from),
        to: said.to.ofSide(side, prefixNames, via.own.to),
      }
      via.byAtom.set(number, bits)
    }
    return bits
  }
})

/**
 * Who decides what, in order, for new connections from one side to the other.
 * The sets are disjoint and cover all.
 */
export function decide(
  compiled: CompiledPolicy,
  chain: Rule['chain'],
  from: PacketEnd,
  to: PacketEnd,
): readonly Decision[] {
  return decideMarked(compiled, chain, compiled.matchBits(from), compiled.matchBits(to))
}

/** The same for sides whose marks are known. */
export function decideMarked(
  compiled: CompiledPolicy,
  chain: Rule['chain'],
  { from }: RuleMatchBits,
  { to }: RuleMatchBits,
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
