// Question: who reaches whom, against what was intended, for every pair of groups?
// Method: places that no wire, route or mask tells apart share a way, which is walked once for each pair of ways; on it, places
// that no rule or intent (as bits) tells apart are one kind. The exact service set of every pair of kinds is gathered to one cell
// for each pair of networks, peers, the gateway and the internet.
import { contains, ipv4, lastOf, parseIpv4, parsePrefix4, spaceOf, type Ipv4 } from '#core/address'
import type { Intent, PlanIndex, Selector, Weather } from '#core/model'
import { cutPoints, EVERYTHING, intersect, isNothing, minus, NOTHING, pay, rulesIn, sample, servicesOf, union, type CompiledPolicy, type ServiceSet } from '#core/policy'
import { bitsWhere, eachShared, memoOn } from '#core/base'
import type { Endpoint } from './endpoints'
import { firstOfEach, meet, partsOf, sharedBits, Speech, waysOf, type Kind, type Place, type Subject, type Way } from './kinds'
import { flowBetween, openSite, type Site } from './passage'

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

const subjectOf = (endpoint: Endpoint, cuts: readonly number[]): Subject => ({
  party: { kind: 'endpoint', endpoint }, id: endpoint.id, addresses: firstOfEach(endpoint.ranges, cuts),
})

const outsideOf = (site: Site): Subject => (site.six ? { party: { kind: 'internet' }, id: INTERNET, addresses: site.six.outside } : outside(site.index))
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
  const address = parseIpv4(network?.gateway ?? site.index.plan.networks.find((n) => n.gateway !== '')?.gateway ?? '')
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

/** Every ordered pair of ways that the grid tells of: hosts with each other, with the gateway, with peers and with the world outside. */
function eachWay(site: Site, intents: readonly Intent[], look: (from: Way, to: Way) => void): void {
  const cuts = cutPoints(site.index)
  const named = new Set(intents.flatMap((i) => [i.from, i.to]).flatMap((s) => (s.kind === 'device' ? [s.id] : [])))
  const hosts = waysOf(site, site.endpoints.map((endpoint) => subjectOf(endpoint, cuts)), named)
  const peers = waysOf(site, peersOf(site, cuts), named)
  const world = waysOf(site, [outsideOf(site)], named)
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

/** A pair of kinds, the places that stand for it, and what passes between them. */
interface Met {
  readonly a: Kind
  readonly b: Kind
  readonly from: Place
  readonly to: Place
  readonly passes: ServiceSet
}

/** What each intent misses, gathered pair by pair. */
function makeJury(site: Site, intents: readonly Intent[]) {
  const { index } = site
  const asked: Asked[] = intents.map((intent) => ({
    intent, from: speakerFor(index, intent.from), to: speakerFor(index, intent.to), services: servicesOf(intent.services, index.services),
  }))
  const verdicts = new Map(intents.map((intent) => [intent.id, { missing: NOTHING as ServiceSet, example: null as FlowRef | null }]))
  const bits = (place: Place, speaks: (ask: Asked) => Speaks) => bitsWhere(asked.length, (i) => speaks(asked[i] as Asked)(place.subject, place.address))
  const speech = new Speech((place) => ({ from: bits(place, (ask) => ask.from), to: bits(place, (ask) => ask.to) }))
  /** Judges one pair of places, each of its kind; answers what was allowed there. */
  const judge = ({ a, b, from, to, passes }: Met): ServiceSet => {
    let allowed: ServiceSet = NOTHING
    eachShared(speech.of(a).from, speech.of(b).to, (i) => {
      const { intent, services } = asked[i] as Asked
      allowed = union(allowed, services)
      const verdict = verdicts.get(intent.id)
      const lost = minus(services, passes)
      if (!verdict || isNothing(lost)) return true
      verdict.missing = union(verdict.missing, lost)
      verdict.example ??= refOf(from.subject, from.address, to.subject, to.address, lost)
      return true
    })
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
    if (!speech) speeches.set(key, (speech = new Speech((place) => compiled.marks({ via, address: place.address }))))
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
