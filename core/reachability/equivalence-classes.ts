// Question: which addresses does nothing tell apart, and what does tell the others apart?
// Method: addresses are of one forwarding class where wires, routes and masks treat them alike; of one
// forwarding class they are of one endpoint class where the same rules and intents, as bits, match them.
// One address stands for each class.
// Source: equivalence classes of packets by atomic predicates (Yang and Lam, 2013, from memory).
import type { Ipv4 } from '#core/address'
import { bothBits, differingBits, eitherBits, groupByRows, sharesAny, type BitRow } from '#core/util'
import type { AtomTable, RuleMatchBits } from '#core/filter'
import type { Party } from './trace'

/** A party with one address for each atom of the addresses it may have. */
export interface Principal {
  readonly party: Party
  readonly id: string
  readonly addresses: readonly Ipv4[]
  /** Stands for several that are alike, and meet each other. */
  readonly isGroup: boolean
}

/** One address of one principal. */
export interface AddressSample {
  readonly principal: Principal
  readonly address: Ipv4
  /**
   * Its place among all samples of its forwarding class: of two that could stand for a class the earlier
   * does, however finely it is divided.
   */
  readonly ordinal: number
}
/**
 * Samples that nothing tells apart: the first of them stands for all, a second one where the class meets itself:
 * of the same group, or of another principal.
 */
export interface EndpointClass extends AddressSample {
  second: AddressSample | null
  /** The class whose match bits hold for it: null for itself, else the first of those it was merged from. */
  readonly parent: EndpointClass | null
}
/** Endpoint classes with the same forwarding to everywhere; only rules and intents tell them apart. */
export interface ForwardingClass {
  readonly party: Party
  readonly address: Ipv4
  readonly classes: readonly EndpointClass[]
  /** All of them merged, and the same as a list. */
  readonly whole: EndpointClass
  readonly sole: readonly [EndpointClass]
}

function mergeClasses(classes: readonly EndpointClass[]): EndpointClass {
  const [first] = classes as [EndpointClass]
  if (classes.length === 1) return first
  let second: AddressSample | null = null
  for (const one of classes) {
    const sample = one.principal.id === first.principal.id ? one.second : one
    if (sample && (!second || sample.ordinal < second.ordinal)) second = sample
  }
  const { principal, address, ordinal } = first
  return { principal, address, ordinal, parent: first, second }
}

/** What decides the forwarding of a principal, beside its address. */
function forwardingKey({ party, id, addresses }: Principal): string {
  if (party.kind === 'gateway') return `${id} ${party.deviceId} ${addresses.join()}`
  if (party.kind !== 'endpoint') return id
  const { homeNetworkId, broadcastDomain, prefixLength, gateway, how, isolation } = party.endpoint
  const apart = isolation.map(({ apId, scope, via }) => `${apId} ${scope} ${via}`).join('+')
  return `${homeNetworkId} ${broadcastDomain} ${prefixLength} ${gateway} ${how === 'link-local'} ${apart}`
}

/** Classes of one forwarding class while they are gathered. */
interface Gathered {
  count: number
  readonly byKey: Map<string | number, EndpointClass>
}

function addSample(gathered: Gathered, key: string | number, principal: Principal, address: Ipv4): void {
  const ordinal = ++gathered.count
  const known = gathered.byKey.get(key)
  const own: AddressSample = { principal, address, ordinal }
  if (!known) gathered.byKey.set(key, { ...own, second: principal.isGroup ? own : null, parent: null })
  else if (known.second === null && known.principal.id !== principal.id) known.second = own
}

/** Of more than two principals that differ in nothing, only the first two stand for all. */
function withoutRepeats(
  principals: readonly Principal[],
  likeness: (principal: Principal) => string,
): Principal[] {
  const seen = new Map<string, { readonly addresses: readonly Ipv4[]; readonly ids: Set<string> }>()
  return principals.filter((principal) => {
    const key = likeness(principal)
    const known = seen.get(key)
    if (known?.addresses === principal.addresses && known.ids.size > 1) return false
    if (known?.addresses === principal.addresses) known.ids.add(principal.id)
    else seen.set(key, { addresses: principal.addresses, ids: new Set([principal.id]) })
    return true
  })
}

/** How addresses are told apart. */
export interface Partition {
  readonly forwarding: AtomTable
  readonly all: AtomTable
  /** Devices that an intent names. */
  readonly named: ReadonlySet<string>
}

/** The forwarding classes of a list of principals, and in each the endpoint classes. */
export function partitionEndpoints(
  { forwarding, all, named }: Partition,
  principals: readonly Principal[],
): ForwardingClass[] {
  const nameOf = ({ party }: Principal) =>
    party.kind === 'endpoint' && named.has(party.endpoint.deviceId) ? party.endpoint.deviceId : ''
  const classes = new Map<string, Map<number, Gathered>>()
  const distinct = withoutRepeats(principals, (one) => `${forwardingKey(one)} ${nameOf(one)}`)
  for (const principal of distinct) {
    const own = forwardingKey(principal)
    const name = nameOf(principal)
    let byAtom = classes.get(own)
    if (!byAtom) classes.set(own, (byAtom = new Map()))
    for (const address of principal.addresses) {
      const atom = forwarding.atomAt(address).number
      let gathered = byAtom.get(atom)
      if (!gathered) byAtom.set(atom, (gathered = { count: 0, byKey: new Map() }))
      const { number } = all.atomAt(address)
      // A number alone is the key of most.
      addSample(gathered, name === '' ? number : `${name} ${number}`, principal, address)
    }
  }
  return [...classes.values()]
    .flatMap((byAtom) => [...byAtom.values()])
    .map(({ byKey }) => {
      const own = [...byKey.values()]
      const whole = mergeClasses(own)
      return { party: whole.principal.party, address: whole.address, classes: own, whole, sole: [whole] }
    })
}

/** Match bits of each end, side by side. */
interface Rows {
  readonly from: readonly BitRow[]
  readonly to: readonly BitRow[]
}
const rowsOf = (list: readonly RuleMatchBits[]): Rows => ({
  from: list.map((m) => m.from),
  to: list.map((m) => m.to),
})
const either = ({ from, to }: Rows): RuleMatchBits => ({ from: eitherBits(from), to: eitherBits(to) })

function memoize<Item extends object, Value>(make: (item: Item) => Value): (item: Item) => Value {
  const known = new Map<Item, Value>()
  return (item) => {
    let value = known.get(item)
    if (value === undefined) known.set(item, (value = make(item)))
    return value
  }
}

/**
 * Which items of one list (of rules, of intents) match each endpoint class, any of a forwarding class, and
 * any of a zone.
 */
export class MatchBitCache {
  constructor(private readonly bitsAt: (sample: AddressSample) => RuleMatchBits) {}
  private readonly ofParent = memoize((one: EndpointClass) => this.bitsAt(one))
  ofClass(one: EndpointClass): RuleMatchBits {
    return this.ofParent(one.parent ?? one)
  }
  /** Those of each endpoint class of a forwarding class, in order. */
  readonly rows = memoize((one: ForwardingClass): Rows => rowsOf(one.classes.map((c) => this.ofClass(c))))
  /** Items that match some endpoint classes of a forwarding class and not others. */
  readonly distinguishing = memoize((one: ForwardingClass): RuleMatchBits => {
    const { from, to } = this.rows(one)
    return { from: differingBits(from), to: differingBits(to) }
  })
  readonly ofForwardingClass = memoize((one: ForwardingClass): RuleMatchBits =>
    one.classes.length === 1 ? this.ofClass(one.whole) : either(this.rows(one)),
  )
  readonly ofZone = memoize((classes: readonly ForwardingClass[]): RuleMatchBits => {
    const own = classes.map((one) => this.ofForwardingClass(one))
    return own.length === 1 ? (own[0] as RuleMatchBits) : either(rowsOf(own))
  })
}

/**
 * A list's items that match both ends of a pair of forwarding classes, and the bits by which each end was
 * matched.
 */
export interface JointMatches {
  readonly from: MatchSide
  readonly to: MatchSide
  readonly bits: BitRow
}
/** By which ends of a list's items one end of a flow is matched: of an answer, it is the other. */
interface MatchSide {
  readonly cache: MatchBitCache
  readonly end: keyof RuleMatchBits
}
/** True where some item matches both ends of a pair. */
export const matchBoth = (
  from: MatchBitCache,
  first: ForwardingClass,
  to: MatchBitCache,
  second: ForwardingClass,
): boolean => sharesAny(from.ofForwardingClass(first).from, to.ofForwardingClass(second).to)

/** Null where no item matches both. */
export function jointMatches(
  from: MatchBitCache,
  first: ForwardingClass,
  to: MatchBitCache,
  second: ForwardingClass,
): JointMatches | null {
  const bits = bothBits(from.ofForwardingClass(first).from, to.ofForwardingClass(second).to)
  return bits && { from: { cache: from, end: 'from' }, to: { cache: to, end: 'to' }, bits }
}

/** The same of items that judge the answer, which comes from the second and goes to the first. */
export function jointAnswers(
  from: MatchBitCache,
  first: ForwardingClass,
  to: MatchBitCache,
  second: ForwardingClass,
): JointMatches | null {
  const joint = jointMatches(from, second, to, first)
  return joint && { from: joint.to, to: joint.from, bits: joint.bits }
}

/** The endpoint classes of a forwarding class, as far as what matches both ends tells them apart. */
export function refine(
  one: ForwardingClass,
  joint: readonly JointMatches[],
  end: keyof RuleMatchBits,
): readonly EndpointClass[] {
  if (one.classes.length === 1) return one.sole
  const telling = joint.filter((match) => {
    const side = match[end]
    return sharesAny(side.cache.distinguishing(one)[side.end], match.bits)
  })
  // Most rules that match a class match all of it.
  if (telling.length === 0) return one.sole
  return groupByRows(
    one.classes,
    telling.map((match) => ({ mask: match.bits, rows: match[end].cache.rows(one)[match[end].end] })),
  ).map(mergeClasses)
}

/** True where somebody of one class has somebody else of another to talk to. */
export const canPair = ({ whole: endpoints }: ForwardingClass, { whole: other }: ForwardingClass): boolean =>
  endpoints.principal.id !== other.principal.id || endpoints.second !== null || other.second !== null

export type SamplePair = readonly [AddressSample, AddressSample]
/** Two samples that stand for a pair of classes, of two hosts; null where there is only one. */
export function representativePair(first: EndpointClass, second: EndpointClass): SamplePair | null {
  if (first.principal.id !== second.principal.id) return [first, second]
  if (second.second) return [first, second.second]
  return first.second ? [first.second, second] : null
}
