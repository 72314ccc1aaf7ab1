// Question: who reaches whom, against what was intended, for every pair of groups?
// Method: exact service sets for every ordered pair of endpoints and every stretch of their addresses that the
// plan's constants tell apart, gathered to one cell for each pair of networks, the gateway and the internet.
import { contains, ipv4, parseIpv4, parsePrefix4, spaceOf, type Ipv4, type Range4 } from '#core/address'
import type { Intent, PlanIndex, Selector, Weather } from '#core/model'
import { cutPoints, EVERYTHING, intersect, isNothing, minus, NOTHING, sample, servicesOf, union, type ServiceSet } from '#core/policy'
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
  return ranges.flatMap((range) => [range.from, ...cuts.filter((cut) => cut > range.from && cut <= range.to).map(ipv4)])
}

const subjectOf = (endpoint: Endpoint, cuts: readonly number[]): Subject => ({
  party: { kind: 'endpoint', endpoint }, id: endpoint.id, addresses: firstOfEach(endpoint.ranges, cuts),
})

function outside(cuts: readonly number[]): Subject {
  const more = cuts.flatMap((cut) => [ipv4(cut), ipv4(cut - 1)]).filter((a) => spaceOf(a) === 'public')
  return { party: { kind: 'internet' }, id: INTERNET, addresses: [ipv4(PUBLIC_SAMPLE), ...new Set(more)] }
}

/** The gateway as seen from, or towards, an endpoint: the device and address of that endpoint's own network. */
function gatewayFor(site: Site, other: Subject): Subject | null {
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

/** Every ordered pair that the grid tells of: hosts with each other, with the gateway and with the world outside. */
function eachPair(site: Site, cuts: readonly number[], look: (from: Subject, to: Subject) => void): void {
  const hosts = site.endpoints.map((endpoint) => subjectOf(endpoint, cuts))
  const world = outside(cuts)
  const both = (a: Subject, b: Subject) => {
    look(a, b)
    look(b, a)
  }
  for (const from of hosts) {
    for (const to of hosts) if (from.id !== to.id) look(from, to)
    const gateway = gatewayFor(site, from)
    if (gateway) both(from, gateway)
    both(from, world)
  }
  const border = gatewayFor(site, world)
  if (border) both(world, border)
}

/** What each intent misses, gathered pair by pair. */
function makeJury(site: Site, intents: readonly Intent[]) {
  const { index } = site
  const asked: Asked[] = intents.map((intent) => ({
    intent, from: speakerFor(index, intent.from), to: speakerFor(index, intent.to), services: servicesOf(intent.services, index.services),
  }))
  const verdicts = new Map(intents.map((intent) => [intent.id, { missing: NOTHING as ServiceSet, example: null as FlowRef | null }]))
  const asks = (from: Subject, a: Ipv4, to: Subject, b: Ipv4) => asked.filter((ask) => ask.from(from, a) && ask.to(to, b))
  /** Judges one pair of addresses; answers what was allowed there. */
  const judge = (mine: readonly Asked[], from: Subject, a: Ipv4, to: Subject, b: Ipv4, passes: ServiceSet): ServiceSet => {
    let allowed: ServiceSet = NOTHING
    for (const { intent, services } of mine) {
      allowed = union(allowed, services)
      const verdict = verdicts.get(intent.id)
      const lost = minus(services, passes)
      if (!verdict || isNothing(lost)) continue
      verdict.missing = union(verdict.missing, lost)
      verdict.example ??= refOf(from, a, to, b, lost)
    }
    return allowed
  }
  return { asks, judge, list: (): IntentVerdict[] => [...verdicts].map(([intentId, v]) => ({ intentId, ...v })) }
}

export function gridOf(site: Site): Grid {
  const { index } = site
  const cuts = cutPoints(index)
  const jury = makeJury(site, index.plan.intents)
  const keys = [...[...index.plan.networks].sort((a, b) => a.vlan - b.vlan).map((n) => n.id), GATEWAY, INTERNET]
  const cells = new Map<string, Gathering>()
  eachPair(site, cuts, (from, to) => {
    const row = keyOf(from)
    const column = keyOf(to)
    if (row === null || column === null || (from.party.kind !== 'endpoint' && row === column)) return
    const key = `${row}>${column}`
    const judged = isJudged(row, column)
    const cell = cells.get(key) ?? fresh()
    cells.set(key, cell)
    for (const a of from.addresses) {
      for (const b of to.addresses) {
        const passes = flowBetween(site, from.party, a, to.party, b).services
        const allowed = jury.judge(jury.asks(from, a, to, b), from, a, to, b, passes)
        gather(cell, passes, allowed, (set) => refOf(from, a, to, b, set), judged)
      }
    }
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
  eachPair(site, cutPoints(site.index), (from, to) => {
    for (const a of from.addresses) {
      for (const b of to.addresses) {
        const mine = jury.asks(from, a, to, b)
        if (mine.length > 0) jury.judge(mine, from, a, to, b, flowBetween(site, from.party, a, to.party, b).services)
      }
    }
  })
  return jury.list()
}

/** Inside one network, and from the gateway itself, no intent is asked. */
function isJudged(from: string, to: string): boolean {
  return from !== to && from !== GATEWAY
}
