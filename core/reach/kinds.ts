// Question: which places does nothing tell apart, and what does tell the others apart?
// Method: places share a way where wires, routes and masks treat them alike; on a way they are of one kind where the rules and
// intents that speak of both ends, as bits, are the same.
import { ipv4, type Ipv4, type Range4 } from '#core/address'
import { countUpTo, groupBy } from '#core/base'
import { roomOf } from '#core/ethernet'
import { tellApart, tellWaysApart, type Marks } from '#core/policy'
import type { Party, Site } from './passage'

/** A party with one address for each stretch that the plan tells apart. */
export interface Subject {
  readonly party: Party
  readonly id: string
  readonly addresses: readonly Ipv4[]
}

/** The first address of each stretch of some ranges that the cuts make. */
export function firstOfEach(ranges: readonly Range4[], cuts: readonly number[]): Ipv4[] {
  return ranges.flatMap((range) => [range.from, ...cuts.slice(countUpTo(cuts, range.from), countUpTo(cuts, range.to)).map(ipv4)])
}

/** One address of one subject. */
export interface Place {
  readonly subject: Subject
  readonly address: Ipv4
}
/** Places that nothing tells apart: the first of them stands for all, the second for the others where the first meets itself. */
export interface Kind extends Place {
  other: Place | null
  /** The kind whose bits hold for it: itself, or the first of those it is made of. */
  readonly bits: Kind | null
}
/** Kinds that take the same way to everywhere; only rules and intents tell them apart. */
export interface Way {
  readonly kinds: readonly Kind[]
  /** All of them as one. */
  readonly whole: Kind
}

function merged(kinds: readonly Kind[]): Kind {
  const [first] = kinds as [Kind]
  if (kinds.length === 1) return first
  return { subject: first.subject, address: first.address, bits: first, other: kinds.find((k) => k.subject.id !== first.subject.id) ?? kinds.find((k) => k.other)?.other ?? null }
}

/** The ways of a list of subjects, and on each the kinds. `named`: devices that an intent speaks of by name. */
export function waysOf(site: Site, subjects: readonly Subject[], named: ReadonlySet<string>): Way[] {
  const [numberOf, wayOf] = [tellApart(site.index), tellWaysApart(site.index)]
  const ways = new Map<string, Map<string, Kind>>()
  for (const subject of subjects) {
    const { party } = subject
    const own = party.kind === 'endpoint'
      ? `${party.endpoint.wants} ${roomOf(site.fabric, party.endpoint.node)} ${party.endpoint.prefixLength} ${party.endpoint.gateway} ${party.endpoint.how === 'link-local'} ${party.endpoint.isolatedOn}`
      : subject.id
    const name = party.kind === 'endpoint' && named.has(party.endpoint.deviceId) ? party.endpoint.deviceId : ''
    for (const address of subject.addresses) {
      const way = `${own} ${wayOf(address)}`
      const kinds = ways.get(way) ?? new Map<string, Kind>()
      ways.set(way, kinds)
      const key = `${name} ${numberOf(address)}`
      const known = kinds.get(key)
      if (!known) kinds.set(key, { subject, address, other: null, bits: null })
      else if (known.other === null && known.subject.id !== subject.id) known.other = { subject, address }
    }
  }
  return [...ways.values()].map((kinds) => ({ kinds: [...kinds.values()], whole: merged([...kinds.values()]) }))
}

export type Bits = Pick<Marks, 'from' | 'to'>

/** Which items of one list (of rules, of intents) speak of each kind, and of any kind of a way. */
export class Speech {
  private readonly known = new Map<Kind, Bits>()
  private readonly ofWays = new Map<Way, Bits>()
  constructor(private readonly bitsAt: (place: Place) => Bits) {}
  of(kind: Kind): Bits {
    const own = kind.bits ?? kind
    let bits = this.known.get(own)
    if (!bits) this.known.set(own, (bits = this.bitsAt(own)))
    return bits
  }
  ofWay(way: Way): Bits {
    let bits = this.ofWays.get(way)
    if (bits) return bits
    const all = way.kinds.map((kind) => this.of(kind))
    const any = (end: keyof Bits) => all.reduce((sum, b) => (b[end].forEach((word, i) => (sum[i] = (sum[i] as number) | word)), sum), new Uint32Array(all[0]?.[end].length ?? 0))
    this.ofWays.set(way, (bits = { from: any('from'), to: any('to') }))
    return bits
  }
}

/** A list's items that speak of both ends of a pair of ways; null where there are none. */
export interface Shared {
  readonly a: Speech
  readonly b: Speech
  readonly bits: Uint32Array
}
export function sharedBits(a: Speech, from: Way, b: Speech, to: Way): Shared | null {
  const [x, y] = [a.ofWay(from).from, b.ofWay(to).to]
  let any = 0
  for (let i = 0; i < x.length; i++) any |= (x[i] as number) & (y[i] as number)
  return any === 0 ? null : { a, b, bits: x.map((word, i) => word & (y[i] as number)) }
}

/** The kinds of a way, as far as what both ends share tells them apart. */
export function partsOf(way: Way, shared: readonly Shared[], end: keyof Bits): Kind[] {
  if (shared.length === 0 || way.kinds.length === 1) return [way.whole]
  const words = shared.flatMap(({ a, b, bits }) => [...bits.keys()].flatMap((w) => (bits[w] === 0 ? [] : [{ speech: end === 'from' ? a : b, w, mask: bits[w] as number }])))
  const keyed = groupBy(way.kinds, (kind) => words.map(({ speech, w, mask }) => (speech.of(kind)[end][w] as number) & mask).join())
  return [...keyed.values()].map(merged)
}

/** Two places that stand for a pair of kinds, of different subjects; null where there is only one. */
export function meet(a: Kind, b: Kind): readonly [Place, Place] | null {
  if (a.subject.id !== b.subject.id) return [a, b]
  if (b.other) return [a, b.other]
  return a.other ? [a.other, b] : null
}
