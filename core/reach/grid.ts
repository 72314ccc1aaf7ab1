// Question: who reaches whom, against what was intended, for every pair of groups?
// Method: places that no wire, route or mask tells apart share a way, which is walked once for each pair of ways; on it, places
// that no rule or intent (as bits) tells apart are one kind. The exact service set of every pair of kinds is gathered to one cell
// for each pair of networks, peers, the gateway and the internet.
import { contains, ipv4, lastOf, parseIpv4, parsePrefix4, spaceOf, type Ipv4, type Range4 } from '#core/address'
import type { Intent, PlanIndex, Selector, Weather } from '#core/model'
import { cutPoints, EVERYTHING, intersect, isNothing, marksOf, minus, NOTHING, pay, rulesIn, sample, servicesOf, tellApart, tellWaysApart, union, type CompiledPolicy, type Marks, type ServiceSet } from '#core/policy'
import { groupBy, memoOn } from '#core/base'
import { roomOf } from '#core/ethernet'
import type { Endpoint } from './endpoints'
import { flowBetween, openSite, type Party, type Site } from './passage'

/** Row and column keys: a network id, or one of these. */
export const GATEWAY = 'gateway'
export const INTERNET = 'internet'

/** One concrete flow, enough to walk it again. */
export interface FlowRef {
  readonly from: string
  readonly fromAddress: number
  readonly to: string
  readonly toAddress: number
  readonly proto: 'tcp' | 'udp' | 'icmp'
  readonly port: number
}

export interface Cell {
  readonly from: string
  readonly to: string
  /** False where no intent is asked: inside one network, and from the gateway itself. */
  readonly judged: boolean
  readonly intended: ServiceSet
  /** Passes between every pair of endpoints. */
  readonly everywhere: ServiceSet
  /** Passes between some pairs only. */
  readonly somewhere: ServiceSet
  /** Intended for a pair and does not pass. */
  readonly missing: ServiceSet
  /** Passes for a pair without being intended. */
  readonly excess: ServiceSet
  /** A flow to open first: one that contradicts the intent, else one that passes, else one that does not. */
  readonly example: FlowRef | null
}

/** An intent and what is missing from it under the grid's weather. */
export interface IntentVerdict {
  readonly intentId: string
  readonly missing: ServiceSet
  readonly example: FlowRef | null
}

export interface Grid {
  /** Keys in drawing order: networks by VLAN, then the gateway, then the internet. */
  readonly keys: readonly string[]
  readonly cells: readonly Cell[]
  readonly verdicts: readonly IntentVerdict[]
}

const PUBLIC_SAMPLE = 0xc6336407 // 198.51.100.7, a documentation address (RFC 5737) that stands for any host outside

/** A party with one address for each stretch that the plan tells apart. */
interface Subject {
  readonly party: Party
  readonly id: string
  readonly addresses: readonly Ipv4[]
}

function firstOfEach(ranges: readonly Range4[], cuts: readonly number[]): Ipv4[] {
  return ranges.flatMap((range) => {
    let [low, high] = [0, cuts.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if ((cuts[middle] as number) <= range.from) low = middle + 1
      else high = middle
    }
    const found = [range.from]
    for (let i = low; i < cuts.length && (cuts[i] as number) <= range.to; i++) found.push(ipv4(cuts[i] as number))
    return found
  })
}

const subjectOf = (endpoint: Endpoint, cuts: readonly number[]): Subject => ({
  party: { kind: 'endpoint', endpoint }, id: endpoint.id, addresses: firstOfEach(endpoint.ranges, cuts),
})

const outside = memoOn((index: PlanIndex): Subject => {
  const more = cutPoints(index).flatMap((cut) => [ipv4(cut), ipv4(cut - 1)]).filter((a) => spaceOf(a) === 'public')
  return { party: { kind: 'internet' }, id: INTERNET, addresses: [ipv4(PUBLIC_SAMPLE), ...new Set(more)] }
})

/** Grid key of a peer. */
export const peerKey = (peerId: string): string => `peer:${peerId}`

/** A tunnel's peers that stand for people and sites; a provider stands for the internet, which has its own column. */
function peersOf(site: Site, cuts: readonly number[]): Subject[] {
  return site.tunnels.flatMap((tunnel) => tunnel.peers.filter((p) => p.kind !== 'provider').map((peer) => ({
    party: { kind: 'peer' as const, tunnelId: tunnel.id, peerId: peer.id }, id: peerKey(peer.id),
    addresses: firstOfEach(peer.allowed.filter((a) => a.length > 0).map((a) => ({ from: a.base, to: lastOf(a) })), cuts),
  })))
}

/** The gateway as seen from, or towards, an endpoint or a peer: the device and address of that endpoint's own network, or the tunnel's. */
function gatewayFor(site: Site, other: Subject): Subject | null {
  const { party } = other
  const tunnel = party.kind === 'peer' ? site.tunnels.find((t) => t.id === party.tunnelId) : undefined
  if (tunnel) return { party: { kind: 'gateway', deviceId: tunnel.deviceId }, id: GATEWAY, addresses: [tunnel.address] }
  const networkId = other.party.kind === 'endpoint' ? (other.party.endpoint.wants ?? other.party.endpoint.networkId) : null
  const network = networkId === null ? undefined : site.index.networks.get(networkId)
  const deviceId = network?.routerId ?? site.index.plan.uplinks[0]?.deviceId ?? site.index.plan.devices.find((d) => d.kind === 'gateway')?.id
  const address = parseIpv4(network?.gateway ?? site.index.plan.networks[0]?.gateway ?? '')
  if (deviceId === undefined || !address.ok) return null
  return { party: { kind: 'gateway', deviceId }, id: GATEWAY, addresses: [address.value] }
}

function keyOf(subject: Subject): string | null {
  return subject.party.kind === 'endpoint' ? subject.party.endpoint.wants : subject.id
}

type Speaks = (subject: Subject, address: Ipv4) => boolean

/** A test for whether an intent's selector speaks of a subject at an address. */
function speakerFor(index: PlanIndex, selector: Selector): Speaks {
  switch (selector.kind) {
    case 'any':
      return () => true
    case 'inside':
      return (subject) => subject.party.kind === 'endpoint'
    case 'network':
      return (subject) => keyOf(subject) === selector.id
    case 'device':
      return (subject) => subject.party.kind === 'endpoint' && subject.party.endpoint.deviceId === selector.id
    case 'internet':
      return (subject) => subject.party.kind === 'internet'
    case 'gateway':
      return (subject) => subject.party.kind === 'gateway'
    case 'tunnel':
      return (subject) => subject.party.kind === 'peer' && subject.party.tunnelId === selector.id
    case 'peer':
      return (subject) => subject.party.kind === 'peer' && subject.party.peerId === selector.id
    case 'prefix': {
      const prefix = parsePrefix4(selector.prefix)
      return (_subject, address) => prefix.ok && contains(prefix.value, address)
    }
  }
}

interface Gathering {
  everywhere: ServiceSet
  union: ServiceSet
  intended: ServiceSet
  missing: ServiceSet
  excess: ServiceSet
  pairs: number
  wrong: FlowRef | null
  passing: FlowRef | null
  blocked: FlowRef | null
}

const fresh = (): Gathering => ({
  everywhere: EVERYTHING, union: NOTHING, intended: NOTHING, missing: NOTHING, excess: NOTHING, pairs: 0, wrong: null, passing: null, blocked: null,
})

function refOf(from: Subject, fromAddress: Ipv4, to: Subject, toAddress: Ipv4, set: ServiceSet): FlowRef | null {
  const one = sample(set)
  return one && { from: from.id, fromAddress, to: to.id, toAddress, proto: one.proto, port: one.port }
}

function gather(cell: Gathering, passes: ServiceSet, allowed: ServiceSet, make: (set: ServiceSet) => FlowRef | null, judged: boolean): void {
  cell.pairs++
  cell.everywhere = intersect(cell.everywhere, passes)
  cell.union = union(cell.union, passes)
  cell.intended = union(cell.intended, allowed)
  const missing = minus(allowed, passes)
  const excess = judged ? minus(passes, allowed) : NOTHING
  cell.missing = union(cell.missing, missing)
  cell.excess = union(cell.excess, excess)
  cell.wrong ??= make(excess) ?? make(missing)
  cell.passing ??= make(passes)
  cell.blocked ??= make(minus(EVERYTHING, passes))
}

function settle(from: string, to: string, judged: boolean, g: Gathering): Cell {
  const everywhere = g.pairs === 0 ? NOTHING : g.everywhere
  return {
    from, to, judged, intended: g.intended, everywhere, somewhere: minus(g.union, everywhere),
    missing: g.missing, excess: g.excess, example: g.wrong ?? g.passing ?? g.blocked,
  }
}

interface Asked {
  readonly intent: Intent
  readonly from: Speaks
  readonly to: Speaks
  readonly services: ServiceSet
}

/** The grid of a plan under a weather. */
export function computeGrid(index: PlanIndex, weather: Weather): Grid {
  return gridOf(openSite(index, weather))
}

/** One address of one subject. */
interface Place {
  readonly subject: Subject
  readonly address: Ipv4
}
/** Places that nothing tells apart: the first of them stands for all, the second for the others where the first meets itself. */
interface Kind extends Place {
  other: Place | null
  /** The kind whose bits hold for it: itself, or the first of those it is made of. */
  readonly bits: Kind | null
}
/** Kinds that take the same way to everywhere; only rules and intents tell them apart. */
interface Way {
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
function waysOf(site: Site, subjects: readonly Subject[], named: ReadonlySet<string>): Way[] {
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

/** Every ordered pair of ways that the grid tells of: hosts with each other, with the gateway, with peers and with the world outside. */
function eachWay(site: Site, intents: readonly Intent[], look: (from: Way, to: Way) => void): void {
  const cuts = cutPoints(site.index)
  const named = new Set(intents.flatMap((i) => [i.from, i.to]).flatMap((s) => (s.kind === 'device' ? [s.id] : [])))
  const hosts = waysOf(site, site.endpoints.map((endpoint) => subjectOf(endpoint, cuts)), named)
  const peers = waysOf(site, peersOf(site, cuts), named)
  const world = waysOf(site, [outside(site.index)], named)
  const both = (a: Way, b: Way) => {
    look(a, b)
    look(b, a)
  }
  const gates = new Map<string, readonly Way[]>()
  const gatewayOf = (way: Way): readonly Way[] => {
    const subject = gatewayFor(site, way.whole.subject)
    const key = subject ? `${subject.party.kind === 'gateway' ? subject.party.deviceId : ''} ${subject.addresses.join()}` : ''
    const known = gates.get(key)
    if (known) return known
    const made = subject ? waysOf(site, [subject], named) : []
    gates.set(key, made)
    return made
  }
  for (const from of hosts) {
    for (const to of hosts) look(from, to)
    for (const gateway of gatewayOf(from)) both(from, gateway)
    for (const out of world) both(from, out)
    for (const peer of peers) both(from, peer)
  }
  for (const peer of peers) {
    for (const other of peers) if (other.whole.subject.id !== peer.whole.subject.id) look(peer, other)
    for (const gateway of gatewayOf(peer)) both(peer, gateway)
    for (const out of world) look(peer, out)
  }
  const [border] = world
  for (const out of world) for (const gateway of border ? gatewayOf(border) : []) both(out, gateway)
}

type Bits = Pick<Marks, 'from' | 'to'>

/** Which items of one list (of rules, of intents) speak of each kind, and of any kind of a way. */
class Speech {
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
interface Shared {
  readonly a: Speech
  readonly b: Speech
  readonly bits: Uint32Array
}
function sharedBits(a: Speech, from: Way, b: Speech, to: Way): Shared | null {
  const [x, y] = [a.ofWay(from).from, b.ofWay(to).to]
  let any = 0
  for (let i = 0; i < x.length; i++) any |= (x[i] as number) & (y[i] as number)
  return any === 0 ? null : { a, b, bits: x.map((word, i) => word & (y[i] as number)) }
}

/** The kinds of a way, as far as what both ends share tells them apart. */
function partsOf(way: Way, shared: readonly Shared[], end: keyof Bits): Kind[] {
  if (shared.length === 0 || way.kinds.length === 1) return [way.whole]
  const words = shared.flatMap(({ a, b, bits }) => [...bits.keys()].flatMap((w) => (bits[w] === 0 ? [] : [{ speech: end === 'from' ? a : b, w, mask: bits[w] as number }])))
  const keyed = groupBy(way.kinds, (kind) => words.map(({ speech, w, mask }) => (speech.of(kind)[end][w] as number) & mask).join())
  return [...keyed.values()].map(merged)
}

/** A pair of kinds, the places that stand for it, and what passes between them. */
interface Met {
  readonly a: Kind
  readonly b: Kind
  readonly from: Place
  readonly to: Place
  readonly passes: ServiceSet
}

function meet(a: Kind, b: Kind): readonly [Place, Place] | null {
  if (a.subject.id !== b.subject.id) return [a, b]
  if (b.other) return [a, b.other]
  return a.other ? [a.other, b] : null
}

/** What each intent misses, gathered pair by pair. */
function makeJury(site: Site, intents: readonly Intent[]) {
  const { index } = site
  const asked: Asked[] = intents.map((intent) => ({
    intent, from: speakerFor(index, intent.from), to: speakerFor(index, intent.to), services: servicesOf(intent.services, index.services),
  }))
  const verdicts = new Map(intents.map((intent) => [intent.id, { missing: NOTHING as ServiceSet, example: null as FlowRef | null }]))
  const bits = (place: Place, speaks: (ask: Asked) => Speaks) => {
    const words = new Uint32Array((asked.length + 31) >> 5)
    asked.forEach((ask, i) => {
      if (speaks(ask)(place.subject, place.address)) words[i >> 5] = (words[i >> 5] as number) | (1 << (i & 31))
    })
    return words
  }
  const speech = new Speech((place) => ({ from: bits(place, (ask) => ask.from), to: bits(place, (ask) => ask.to) }))
  /** Judges one pair of places, each of its kind; answers what was allowed there. */
  const judge = ({ a, b, from, to, passes }: Met): ServiceSet => {
    let allowed: ServiceSet = NOTHING
    const [x, y] = [speech.of(a).from, speech.of(b).to]
    for (let w = 0; w < x.length; w++) {
      for (let both = (x[w] as number) & (y[w] as number); both !== 0; both &= both - 1) {
        const { intent, services } = asked[(w << 5) + 31 - Math.clz32(both & -both)] as Asked
        allowed = union(allowed, services)
        const verdict = verdicts.get(intent.id)
        const lost = minus(services, passes)
        if (!verdict || isNothing(lost)) continue
        verdict.missing = union(verdict.missing, lost)
        verdict.example ??= refOf(from.subject, from.address, to.subject, to.address, lost)
      }
    }
    return allowed
  }
  return { speech, judge, list: (): IntentVerdict[] => [...verdicts].map(([intentId, v]) => ({ intentId, ...v })) }
}

/** Walks every pair of ways once, and looks at each pair of kinds that rules or intents tell apart on them. */
function eachPair(site: Site, intents: readonly Intent[], intended: Speech, onlyIntended: boolean, look: (met: Met) => void): void {
  const speeches = new Map<string, Speech>()
  const speechOf = (compiled: CompiledPolicy, via: string): Speech => {
    const key = `${compiled.policy.deviceId} ${via}`
    let speech = speeches.get(key)
    if (!speech) speeches.set(key, (speech = new Speech((place) => marksOf(compiled, { via, address: place.address }))))
    return speech
  }
  eachWay(site, intents, (from, to) => {
    const meant = sharedBits(intended, from, intended, to)
    const ends = meet(from.whole, to.whole)
    if (!ends || (onlyIntended && meant === null)) return
    const { toll } = flowBetween(site, from.whole.subject.party, from.whole.address, to.whole.subject.party, to.whole.address)
    const shared = rulesIn(toll).map((rules) => sharedBits(speechOf(rules.compiled, rules.from), from, speechOf(rules.compiled, rules.to), to))
    const told = [meant, ...shared].filter((s) => s !== null)
    for (const a of partsOf(from, told, 'from')) {
      for (const b of partsOf(to, told, 'to')) {
        const pair = meet(a, b)
        if (pair) look({ a, b, from: pair[0], to: pair[1], passes: pay(toll, pair[0].address, pair[1].address) })
      }
    }
  })
}

export function gridOf(site: Site): Grid {
  const { index } = site
  const jury = makeJury(site, index.plan.intents)
  const keys = [...[...index.plan.networks].sort((a, b) => a.vlan - b.vlan).map((n) => n.id), ...site.tunnels.flatMap((t) => t.peers.filter((p) => p.kind !== 'provider').map((p) => peerKey(p.id))), GATEWAY, INTERNET]
  const cells = new Map<string, Gathering>()
  eachPair(site, index.plan.intents, jury.speech, false, (met) => {
    const { from, to, passes } = met
    const row = keyOf(from.subject)
    const column = keyOf(to.subject)
    if (row === null || column === null || (from.subject.party.kind !== 'endpoint' && row === column)) return
    const key = `${row}>${column}`
    let cell = cells.get(key)
    if (!cell) cells.set(key, (cell = fresh()))
    const allowed = jury.judge(met)
    gather(cell, passes, allowed, (set) => refOf(from.subject, from.address, to.subject, to.address, set), isJudged(row, column))
  })
  return {
    keys,
    cells: keys.flatMap((from) => keys.map((to) => settle(from, to, isJudged(from, to), cells.get(`${from}>${to}`) ?? fresh()))),
    verdicts: jury.list(),
  }
}

/** The verdicts of some intents alone, as `gridOf` would give them: pairs that none of them names are not walked. */
export function verdictsOf(site: Site, intents: readonly Intent[]): IntentVerdict[] {
  const jury = makeJury(site, intents)
  eachPair(site, intents, jury.speech, true, (met) => void jury.judge(met))
  return jury.list()
}

/** Inside one network, and from the gateway itself, no intent is asked. */
function isJudged(from: string, to: string): boolean {
  return from !== to && from !== GATEWAY
}
