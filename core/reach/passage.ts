// Question: does a packet from here get there, and which services may it carry?
// Method: the host decides by its own mask, each gateway by longest prefix and ordered rules, each wire by 802.1Q;
// a passage ends where it is delivered, or where something stops it.
// Source: RFC 1122 section 3.3.1 (hosts), RFC 1812 section 5.2.4 (longest match), RFC 3022 (address translation).
import { contains, ipv4, networkOf, parseIpv4, spaceOf, type Ipv4, type Prefix4 } from '#core/address'
import { byText, memoOn, memoOnParts } from '#core/base'
import { makeFabric, type Fabric } from '#core/ethernet'
import { AT, holdingUnder, indexPlan, knownAs, type Plan, type PlanIndex, type Weather } from '#core/model'
import {
  anyToll,
  EVERYTHING,
  everyToll,
  FREE,
  isNothing,
  NOTHING,
  policiesOf,
  SHUT,
  tellWaysApart,
  tunnelVia,
  type Policies,
  type ServiceSet,
  type Side,
  type Toll,
} from '#core/policy'
import { endpointsOf, interfacesOf, type Endpoint, type Interface4 } from './endpoints'
import { sixOf, type Six } from './six'
import {
  forwardedTo,
  outwardParts,
  peerFor,
  routingOf,
  takesCalls,
  type Exit,
  type RouteEntry,
  type Routing,
} from './routing'

/** One end of a flow. */
export type Party =
  | { readonly kind: 'endpoint'; readonly endpoint: Endpoint }
  | { readonly kind: 'gateway'; readonly deviceId: string }
  | { readonly kind: 'peer'; readonly tunnelId: string; readonly peerId: string }
  | { readonly kind: 'internet' }

export type StopCode =
  | 'no-address'
  | 'no-gateway'
  | 'gateway-off-link'
  | 'gateway-unanswered'
  | 'neighbour-unanswered'
  | 'isolated'
  | 'no-route'
  | 'not-global'
  | 'no-uplink'
  | 'line-dark'
  | 'route-refused'
  | 'not-addressable'
  | 'shared-address'
  | 'too-many-hops'
  | 'asymmetric'
  | 'device-off'
  | 'tunnel-down'
  | 'no-peer'
  | 'peer-refuses'
  | 'peer-sends-not'

export type Step =
  | {
      readonly kind: 'host'
      readonly endpoint: Endpoint
      readonly address: Ipv4
      readonly towards: 'on-link' | 'gateway'
      readonly next: Ipv4
    }
  | { readonly kind: 'wire'; readonly from: string; readonly to: string; readonly delivered: boolean }
  | {
      readonly kind: 'route'
      readonly deviceId: string
      readonly entry: RouteEntry
      readonly only?: ServiceSet
    }
  | {
      readonly kind: 'chosen'
      readonly deviceId: string
      readonly policyRouteId: string
      readonly exit: Exit | null
      readonly only: ServiceSet
    }
  | {
      readonly kind: 'rules'
      readonly deviceId: string
      readonly chain: 'forward' | 'input'
      readonly from: Side
      readonly to: Side
      readonly only?: ServiceSet
    }
  | { readonly kind: 'translate'; readonly deviceId: string; readonly exit: Exit; readonly only?: ServiceSet }
  | {
      readonly kind: 'tunnel'
      readonly tunnelId: string
      readonly peerId: string
      readonly inward: boolean
      readonly known: Ipv4 | null
    }
  | { readonly kind: 'forwarded'; readonly deviceId: string; readonly uplinkIds: readonly string[] }

export interface Passage {
  readonly steps: readonly Step[]
  /** What the rules on the way let pass in this direction, for any addresses that share the way; nothing where the way ends. */
  readonly toll: Toll
  readonly routers: readonly string[]
  readonly stop: StopCode | null
}

/** What of a plan, under one weather, its rules and intents have no say in. */
export interface Land extends Routing {
  readonly fabric: Fabric
  readonly interfaces: readonly Interface4[]
  /** The same by address, and by network. */
  readonly faces: ReadonlyMap<Ipv4, readonly Interface4[]>
  readonly networkFaces: ReadonlyMap<string, Interface4>
  readonly endpoints: readonly Endpoint[]
  /** Stands for all of it that a walk asks between its ends: the same object for every land that differs in who stands where alone. */
  readonly roads: object
}
/** A plan made ready to be asked, under one weather. */
export interface Site extends Land {
  /** The same object for every plan that differs in its rules and intents alone. */
  readonly land: Land
  readonly index: PlanIndex
  readonly policies: Policies
  /** Schedules that hold. */
  readonly holding: ReadonlySet<string>
  /** Where the plan's IPv6 side is asked: how to read its addresses; null for IPv4. */
  readonly six: Six | null
}

const MOST_HOPS = 16
const DEFAULT: Prefix4 = { base: ipv4(0), length: 0 }

/** Makes a plan ready for questions under a weather. Plan errors end in findings elsewhere; nothing here throws on them. */
export const openSite = (index: PlanIndex, weather: Weather): Site => open(index, weather, null)
function open(index: PlanIndex, weather: Weather, six: Six | null): Site {
  const holding = holdingUnder(index.plan, weather)
  const land = landOf(
    index,
    weather.filter((w) => !w.startsWith(AT)),
    six !== null,
  )
  return {
    ...land,
    land,
    index,
    fabric: { ...land.fabric, index },
    plan: index.plan,
    policies: policiesOf(index, holding),
    holding,
    six,
  }
}

const lands = memoOnParts<Land>(4)
function landOf(index: PlanIndex, weather: Weather, drawn: boolean): Land {
  const {
    devices,
    links,
    networks,
    uplinks,
    ssids,
    services,
    groups,
    routes,
    policyRoutes,
    forwards,
    tunnels,
    models,
    brief,
  } = index.plan
  return lands(
    devices,
    [
      drawn,
      [...weather].sort(byText).join(' '),
      links,
      networks,
      uplinks,
      ssids,
      services,
      groups,
      routes,
      policyRoutes,
      forwards,
      tunnels,
      models,
      brief.equipment,
    ],
    () => layOut(index, weather, drawn),
  )
}

function layOut(index: PlanIndex, weather: Weather, drawn: boolean): Land {
  const fabric = makeFabric(index, weather)
  const interfaces = interfacesOf(fabric)
  const faces = new Map<Ipv4, Interface4[]>()
  for (const face of interfaces) faces.set(face.address, [...(faces.get(face.address) ?? []), face])
  const networkFaces = new Map([...interfaces].reverse().map((f) => [f.networkId, f]))
  const routing = routingOf(fabric, interfaces)
  return {
    fabric,
    interfaces,
    faces,
    networkFaces,
    endpoints: endpointsOf(fabric, interfaces),
    ...routing,
    roads: roadsOf(index, weather, interfaces, routing, drawn),
  }
}

const knownRoads = memoOnParts<object>(4)
/**
 * What of devices, cables and networks a walk asks is in the gateways' interfaces, lines and tunnels, and in what policy routes choose
 * by; all else is these parts of the plan. Where lines go by what a drawing of IPv6 stands for (`drawn`), it is in its networks.
 */
function roadsOf(
  index: PlanIndex,
  weather: Weather,
  interfaces: readonly Interface4[],
  { uplinks: well, dark, sharing, tunnels: faces }: Routing,
  drawn: boolean,
): object {
  const { networks, uplinks, services, groups, routes, policyRoutes, forwards, tunnels } = index.plan
  const laid = JSON.stringify([
    [...weather].sort(byText),
    interfaces,
    well.map((u) => u.id),
    [...dark],
    [...sharing],
    faces,
  ])
  return knownRoads(
    uplinks,
    [
      laid,
      drawn || policyRoutes.length > 0 ? networks : null,
      tellWaysApart(index),
      services,
      groups,
      routes,
      policyRoutes,
      forwards,
      tunnels,
    ],
    () => ({}),
  )
}

/** The same for a plan's IPv6 side; null where it has none. */
export function openSix(plan: Plan, weather: Weather): Site | null {
  const six = sixOf(plan)
  return six && open(indexPlan(six.plan), weather, six)
}

interface Target {
  readonly party: Party
  readonly address: Ipv4
  /** Whether the steps of the way are asked for; for a grid its toll is enough. */
  readonly told: boolean
}
type Steps = Step[] | null

const NONE: readonly Step[] = []
/** Whoever stands at a node; of one room are those who hear each other. */
type Heard = Pick<Endpoint, 'node' | 'room'>
const start = (target: Target): Steps => (target.told ? [] : null)
export const ended = (
  steps: readonly Step[] | null,
  routers: readonly string[],
  stop: StopCode,
): Passage => ({ steps: steps ?? NONE, routers, stop, toll: SHUT })

/** The gateway's interface that has an address and is heard from where somebody is. */
export function faceHeard(site: Site, { room }: Heard, address: Ipv4): Interface4 | undefined {
  return site.faces.get(address)?.find((face) => face.room === room)
}

function isSelf(site: Site, deviceId: string, address: Ipv4): boolean {
  return (
    (site.faces.get(address)?.some((face) => face.deviceId === deviceId) ?? false) ||
    site.tunnels.some((t) => t.deviceId === deviceId && t.address === address)
  )
}

/** The last wire: from a node to the target on the same link. */
function deliver(
  site: Site,
  from: Heard,
  source: Endpoint | null,
  target: Target,
  steps: Steps,
): StopCode | null {
  if (target.party.kind === 'internet' || target.party.kind === 'peer') return 'neighbour-unanswered'
  const to = target.party.kind === 'endpoint' ? target.party.endpoint : faceHeard(site, from, target.address)
  if (to === undefined) return 'neighbour-unanswered'
  if (
    source &&
    target.party.kind === 'endpoint' &&
    source.isolatedOn !== null &&
    source.isolatedOn === target.party.endpoint.isolatedOn
  )
    return 'isolated'
  const delivered = from.room === to.room
  steps?.push({ kind: 'wire', from: from.node, to: to.node, delivered })
  return delivered ? null : 'neighbour-unanswered'
}

/**
 * The way out to the internet: each part of the services takes the line or the tunnel that the policy routes give it, and is
 * judged by the rules as it leaves there. A reply goes back the way its flow came.
 */
function outward(
  site: Site,
  at: Arrival,
  entry: RouteEntry | undefined,
  steps: Steps,
  fresh: boolean,
): { readonly toll: Toll; readonly rest: ServiceSet; readonly stop: StopCode | null } {
  if (site.six && at.via !== 'self' && site.six.linesOf(at.source).length === 0)
    return { toll: SHUT, rest: NOTHING, stop: 'not-global' }
  const parts = site.six ? partsOfSix(site, site.six, at) : outwardParts(site, at, entry, fresh)
  const tolls: Toll[] = []
  let stop: StopCode | null = null
  for (const { services: only, policyRouteId, exit } of parts) {
    if (policyRouteId !== null)
      steps?.push({ kind: 'chosen', deviceId: at.deviceId, policyRouteId, exit, only })
    if (exit === null) {
      stop ??= policyRouteId === null ? 'no-uplink' : 'route-refused'
      continue
    }
    if (policyRouteId === null && entry && !site.six)
      steps?.push({ kind: 'route', deviceId: at.deviceId, entry, only })
    const toll: Toll[] = [{ kind: 'free', services: only }]
    if (fresh && at.via !== 'self') {
      const to = exit.kind === 'uplink' ? 'uplink' : tunnelVia(exit.id)
      steps?.push({
        kind: 'rules',
        deviceId: at.deviceId,
        chain: 'forward',
        from: { via: at.via, address: at.source },
        to: { via: to, address: at.target },
        only,
      })
      toll.push({ kind: 'rules', deviceId: at.deviceId, chain: 'forward', from: at.via, to })
    }
    if (
      fresh &&
      exit.kind === 'uplink' &&
      (site.dark.has(exit.id) ||
        (policyRouteId === null &&
          !site.six &&
          site.sharing.get(at.deviceId)?.some((id) => site.dark.has(id))))
    ) {
      stop ??= 'line-dark'
      continue
    }
    if (site.six)
      steps?.push({
        kind: 'route',
        deviceId: at.deviceId,
        entry: { prefix: DEFAULT, kind: 'uplink', via: exit.id, metric: 0 },
        only,
      })
    else steps?.push({ kind: 'translate', deviceId: at.deviceId, exit, only })
    tolls.push(everyToll(toll))
  }
  // What the rules refuse is no end of the way; what leads nowhere at all is.
  return {
    toll: anyToll(tolls),
    rest: parts.find((p) => p.policyRouteId === null)?.services ?? NOTHING,
    stop: tolls.length > 0 ? null : (stop ?? 'no-uplink'),
  }
}

/** IPv6 leaves by the first line whose provider has delegated the sender's prefix, and by no other; a gateway itself by the first of all. */
function partsOfSix(site: Site, six: Six, at: Arrival): ReturnType<typeof outwardParts> {
  const own = site.uplinks.find(
    (u) =>
      u.deviceId === at.deviceId &&
      (at.via === 'self' ? six.delegates(u.id) : six.linesOf(at.source).includes(u.id)),
  )
  return [{ services: EVERYTHING, policyRouteId: null, exit: own ? { kind: 'uplink', id: own.id } : null }]
}

/** True where an address is somewhere outside, as far as this side of the plan goes. */
const isOutside = (site: Site, address: Ipv4): boolean => site.six !== null || spaceOf(address) !== 'private'

interface Arrival {
  readonly deviceId: string
  readonly via: string
  readonly source: Ipv4
  readonly target: Ipv4
}

const NOBODY: readonly string[] = []
/** Somebody on the way from router to router. Thousands are made for each grid, so it has no more parts than it needs. */
interface Trip {
  readonly steps: Steps
  /** What has to be paid so far; null for nothing. */
  toll: Toll | null
  /** What has left for the internet on the way, where a static default route takes only the rest. */
  left: Toll | null
  routers: readonly string[]
}
const also = (toll: Toll | null, more: Toll): Toll =>
  toll === null ? more : everyToll(toll.kind === 'all' ? [...toll.of, more] : [toll, more])
const arrived = ({ steps, routers, toll, left }: Trip): Passage => ({
  steps: steps ?? NONE,
  routers,
  toll: left === null ? (toll ?? FREE) : anyToll([toll ?? FREE, left]),
  stop: null,
})
const endOf = ({ steps, routers, left }: Trip, stop: StopCode): Passage =>
  left === null ? ended(steps, routers, stop) : { steps: steps ?? NONE, routers, toll: left, stop: null }
/** The rules of a router judge a new connection. */
function judge(trip: Trip, at: Arrival, chain: 'forward' | 'input', out: string): void {
  if (at.via === 'self') return
  trip.steps?.push({
    kind: 'rules',
    deviceId: at.deviceId,
    chain,
    from: { via: at.via, address: at.source },
    to: { via: out, address: at.target },
  })
  trip.toll = also(trip.toll, { kind: 'rules', deviceId: at.deviceId, chain, from: at.via, to: out })
}
/** Lists of one router: most ways pass one. */
const aloneOn = memoOn((_roads: object) => new Map<string, readonly string[]>())
function alone(site: Site, deviceId: string): readonly string[] {
  const known = aloneOn(site.roads)
  let list = known.get(deviceId)
  if (!list) known.set(deviceId, (list = [deviceId]))
  return list
}

function throughRouters(site: Site, first: Arrival, target: Target, steps: Steps, fresh: boolean): Passage {
  let at = first
  const trip: Trip = { steps, toll: null, left: null, routers: NOBODY }
  for (let hop = 0; hop < MOST_HOPS; hop++) {
    trip.routers = hop === 0 ? alone(site, at.deviceId) : [...trip.routers, at.deviceId]
    if (
      target.party.kind === 'gateway' &&
      (isSelf(site, at.deviceId, target.address) || target.party.deviceId === at.deviceId)
    ) {
      if (fresh) judge(trip, at, 'input', 'self')
      return arrived(trip)
    }
    const entry = routeTo(site, at.deviceId, target.address)
    if (
      (entry === undefined || entry.prefix.length === 0) &&
      target.party.kind === 'internet' &&
      isOutside(site, target.address)
    ) {
      const out = outward(site, at, entry?.kind === 'uplink' ? entry : undefined, steps, fresh)
      if (!out.stop) {
        const gone = also(trip.toll, out.toll)
        trip.left = trip.left === null ? gone : anyToll([trip.left, gone])
      }
      if (entry?.kind !== 'static') return endOf(trip, out.stop ?? 'no-uplink')
      trip.toll = also(trip.toll, { kind: 'free', services: out.rest })
    }
    if (entry === undefined) return endOf(trip, site.uplinks.length === 0 ? 'no-uplink' : 'no-route')
    steps?.push({ kind: 'route', deviceId: at.deviceId, entry })
    if (entry.kind === 'uplink') return endOf(trip, 'no-route')
    if (entry.kind === 'tunnel') {
      if (fresh) judge(trip, at, 'forward', tunnelVia(entry.via))
      const stop = intoTunnel(site, entry.via, at.source, target, steps, fresh)
      return stop ? endOf(trip, stop) : arrived(trip)
    }
    const face =
      entry.kind === 'connected' ? site.networkFaces.get(entry.via) : nextFace(site, at.deviceId, entry.via)
    if (!face) return endOf(trip, 'no-route')
    if (fresh) judge(trip, at, 'forward', face.networkId)
    if (entry.kind === 'connected') {
      const stop = deliver(site, face, null, target, steps)
      return stop ? endOf(trip, stop) : arrived(trip)
    }
    const via = parseIpv4(entry.via)
    const next = via.ok
      ? site.interfaces.find(
          (f) => f.address === via.value && f.deviceId !== at.deviceId && face.room === f.room,
        )
      : undefined
    if (!next) return endOf(trip, 'neighbour-unanswered')
    steps?.push({ kind: 'wire', from: face.node, to: next.node, delivered: true })
    at = { ...at, deviceId: next.deviceId, via: next.networkId }
  }
  return endOf(trip, 'too-many-hops')
}

/** A gateway's route to an address, found once. */
function routeTo(site: Site, deviceId: string, address: Ipv4): RouteEntry | undefined {
  const known = routesOn(site.roads)
  let mine = known.get(deviceId)
  if (!mine) known.set(deviceId, (mine = new Map()))
  let entry = mine.get(address)
  if (entry === undefined)
    mine.set(
      address,
      (entry = site.routes.get(deviceId)?.find((route) => contains(route.prefix, address)) ?? null),
    )
  return entry ?? undefined
}
const routesOn = memoOn((_roads: object) => new Map<string, Map<Ipv4, RouteEntry | null>>())

function nextFace(site: Site, deviceId: string, via: string): Interface4 | undefined {
  const hop = parseIpv4(via)
  return hop.ok
    ? site.interfaces.find((f) => f.deviceId === deviceId && contains(f.prefix, hop.value))
    : undefined
}

function fromHost(site: Site, endpoint: Endpoint, address: Ipv4, target: Target, fresh: boolean): Passage {
  const steps = start(target)
  const own = networkOf(address, endpoint.prefixLength)
  if (endpoint.how === 'link-local') {
    const home = site.interfaces.find((f) => f.networkId === endpoint.wants)
    if (home)
      steps?.push({
        kind: 'wire',
        from: endpoint.node,
        to: home.node,
        delivered: endpoint.room === home.room,
      })
    return ended(steps, [], 'no-address')
  }
  if (networkOf(target.address, endpoint.prefixLength) === own) {
    steps?.push({ kind: 'host', endpoint, address, towards: 'on-link', next: target.address })
    const stop = deliver(site, endpoint, endpoint, target, steps)
    if (stop) return ended(steps, [], stop)
    if (target.party.kind !== 'gateway') return { steps: steps ?? NONE, routers: [], toll: FREE, stop: null }
    return throughRouters(
      site,
      {
        deviceId: target.party.deviceId,
        via: faceHeard(site, endpoint, target.address)?.networkId ?? '',
        source: address,
        target: target.address,
      },
      target,
      steps,
      fresh,
    )
  }
  if (endpoint.gateway === null) return ended(steps, [], 'no-gateway')
  steps?.push({ kind: 'host', endpoint, address, towards: 'gateway', next: endpoint.gateway })
  if (networkOf(endpoint.gateway, endpoint.prefixLength) !== own) return ended(steps, [], 'gateway-off-link')
  const face = faceHeard(site, endpoint, endpoint.gateway)
  if (!face) {
    const meant = site.interfaces.find((f) => f.address === endpoint.gateway)
    if (meant) steps?.push({ kind: 'wire', from: endpoint.node, to: meant.node, delivered: false })
    return ended(steps, [], 'gateway-unanswered')
  }
  steps?.push({ kind: 'wire', from: endpoint.node, to: face.node, delivered: true })
  return throughRouters(
    site,
    { deviceId: face.deviceId, via: face.networkId, source: address, target: target.address },
    target,
    steps,
    fresh,
  )
}

/**
 * Out into a tunnel: the peer to whom the address belongs, and whether it takes what comes from here, by the address it knows it by. Replies come
 * from the address that was called, which may be the sender's own.
 */
function intoTunnel(
  site: Site,
  tunnelId: string,
  source: Ipv4,
  target: Target,
  steps: Steps,
  fresh: boolean,
): StopCode | null {
  const face = site.tunnels.find((t) => t.id === tunnelId)
  const peer = face && peerFor(face, target.address)
  if (!face || !peer) return 'no-peer'
  const known = knownAs(face.maps, source)
  steps?.push({
    kind: 'tunnel',
    tunnelId,
    peerId: peer.id,
    inward: false,
    known: known === source ? null : known,
  })
  if (!peer.up) return 'tunnel-down'
  if (target.party.kind !== 'peer' || target.party.peerId !== peer.id) return 'no-peer'
  return peer.theirAllowed.some((prefix) => contains(prefix, known) || (!fresh && contains(prefix, source)))
    ? null
    : 'peer-refuses'
}

/** From a peer: what its own configuration sends, and what the gateway takes from it. */
function fromPeer(
  site: Site,
  from: Party & { kind: 'peer' },
  source: Ipv4,
  target: Target,
  fresh: boolean,
): Passage {
  const face = site.tunnels.find((t) => t.id === from.tunnelId)
  const peer = face?.peers.find((p) => p.id === from.peerId)
  if (!face || !peer) return ended([], [], 'no-peer')
  const known = knownAs(face.maps, target.address)
  const steps: Steps = target.told
    ? [
        {
          kind: 'tunnel',
          tunnelId: face.id,
          peerId: peer.id,
          inward: true,
          known: known === target.address ? null : known,
        },
      ]
    : null
  if (!peer.up) return ended(steps, [], 'tunnel-down')
  if (!peer.theirAllowed.some((prefix) => contains(prefix, target.address) || contains(prefix, known)))
    return ended(steps, [], 'peer-sends-not')
  if (peerFor(face, source)?.id !== peer.id) return ended(steps, [], 'no-peer')
  return throughRouters(
    site,
    { deviceId: face.deviceId, via: tunnelVia(face.id), source, target: target.address },
    target,
    steps,
    fresh,
  )
}

/** From the internet: to the gateway itself, or to what a port forward names; a reply comes in where its flow went out. */
function fromInternet(
  site: Site,
  source: Ipv4,
  target: Target,
  fresh: boolean,
  deviceId: string | undefined,
): Passage {
  const via = { via: 'uplink', source, target: target.address }
  if (!fresh) {
    const back = deviceId ?? site.uplinks[0]?.deviceId
    return back === undefined
      ? ended([], [], 'no-uplink')
      : throughRouters(site, { deviceId: back, ...via }, target, start(target), false)
  }
  if (site.six) {
    // Without translation everybody can be called whose prefix the outside has a way to.
    const lines = site.six.linesOf(target.address)
    if (lines.length === 0) return ended([], [], 'not-global')
    const uplink = site.uplinks.find((u) => lines.includes(u.id))
    if (!uplink) return ended([], [], 'no-uplink')
    return site.dark.has(uplink.id)
      ? ended([], [], 'line-dark')
      : throughRouters(site, { deviceId: uplink.deviceId, ...via }, target, start(target), true)
  }
  if (target.party.kind === 'gateway') {
    const uplink = site.uplinks.find((u) => takesCalls(site, u))
    if (!uplink) return ended([], [], site.uplinks.length > 0 ? 'shared-address' : 'no-uplink')
    return throughRouters(site, { deviceId: uplink.deviceId, ...via }, target, start(target), true)
  }
  if (target.party.kind !== 'endpoint') return ended([], [], 'not-addressable')
  const forwarded = forwardedTo(site, target.address)
  if (forwarded === null) return ended([], [], 'not-addressable')
  if (isNothing(forwarded.services))
    return ended([], [], site.uplinks.length > 0 ? 'shared-address' : 'no-uplink')
  const { deviceId: gateway, uplinkIds } = forwarded
  const passage = throughRouters(
    site,
    { deviceId: gateway, ...via },
    target,
    target.told ? [{ kind: 'forwarded', deviceId: gateway, uplinkIds }] : null,
    true,
  )
  return { ...passage, toll: everyToll([passage.toll, { kind: 'free', services: forwarded.services }]) }
}

/** One direction. `fresh`: a new connection that the rules judge; otherwise a reply that follows its flow, out of the router named last. */
export function oneWay(
  site: Site,
  from: Party,
  fromAddress: Ipv4,
  target: Target,
  fresh: boolean,
  lastRouter?: string,
): Passage {
  switch (from.kind) {
    case 'endpoint':
      return fromHost(site, from.endpoint, fromAddress, target, fresh)
    case 'gateway':
      if (site.fabric.failed.has(from.deviceId)) return ended([], [], 'device-off')
      return throughRouters(
        site,
        { deviceId: from.deviceId, via: 'self', source: fromAddress, target: target.address },
        target,
        start(target),
        fresh,
      )
    case 'peer':
      return fromPeer(site, from, fromAddress, target, fresh)
    case 'internet':
      return fromInternet(site, fromAddress, target, fresh, lastRouter)
  }
}
