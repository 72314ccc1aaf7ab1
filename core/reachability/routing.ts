// Question: which way does a gateway send a packet on: a network, a route, a tunnel, or which line?
// Method: longest prefix, then the lowest metric; what only a default route matches goes by the policy routes
// first and then by the lines in order, as far as failures and probes leave them.
// Tunnels carry what their peers' allowed addresses say.
// Source:
// RFC 1812 section 5.2.4 (longest match); ip-rule(8) (policy before main, `suppress_prefixlength 0`); wg(8),
// allowed-ips.
import {
  contains,
  ipv4,
  parsePrefix4,
  type Ipv4,
  type Prefix4,
  readInterface4,
  readPrefixes4,
} from '#core/address'
import { groupBy, orNull } from '#core/util'
import { uplinkEntries, type Layer2 } from '#core/layer2'
import {
  canBeCalled,
  earlierAtPort,
  sharingGroups,
  uplinkGroup,
  uplinksInOrder,
  mapsOf,
  networkAroundUplink,
  type AddressMap,
  type PlanIndex,
} from '#core/queries'
import type { PolicyRoute, Tunnel, Uplink, DeviceId, TunnelId, UplinkId } from '#core/schema'
import {
  EVERYTHING,
  includes,
  intersect,
  isNothing,
  matcherOf,
  minus,
  servicesOf,
  nextHopPrefix,
  type Matcher,
  type ServiceSet,
} from '#core/filter'
import type { Interface4 } from './endpoints'
import { acceptsInbound, handedInside, type Forwarding } from './forwarding'
import { projectionIn } from './ipv6-projection'
import { staticDefaults } from './static-defaults'

export interface RouteEntry {
  readonly prefix: Prefix4
  readonly kind: 'connected' | 'static' | 'tunnel' | 'uplink'
  /** Network id, next hop as text, tunnel id, or uplink id. */
  readonly via: string
  readonly metric: number
}

/** Where traffic to the internet leaves. */
export interface Exit {
  readonly kind: 'uplink' | 'tunnel'
  readonly id: string
}

export interface TunnelPeer {
  readonly id: string
  readonly up: boolean
  readonly kind: Tunnel['peers'][number]['kind']
  readonly allowed: readonly Prefix4[]
  readonly theirAllowed: readonly Prefix4[]
}
/** A tunnel's interface on its gateway. */
export interface TunnelInterface {
  readonly id: string
  readonly deviceId: DeviceId
  readonly address: Ipv4
  readonly prefix: Prefix4
  /** False where the interface does not come up: then no route leads there. */
  readonly isThere: boolean
  /** By which other addresses its peers know ours. */
  readonly maps: readonly AddressMap[]
  readonly peers: readonly TunnelPeer[]
}

interface PolicyRouteMatcher {
  readonly route: PolicyRoute
  readonly from: Matcher
  readonly services: ServiceSet
}

/** A router's routes: the longest prefix first, of two alike the lower metric. */
export class RoutingTable {
  private readonly known = new Map<Ipv4, RouteEntry | undefined>()
  constructor(readonly entries: readonly RouteEntry[]) {}
  /** The route to an address; undefined where there is none. */
  lookup(address: Ipv4): RouteEntry | undefined {
    let entry = this.known.get(address)
    if (entry !== undefined || this.known.has(address)) return entry
    entry = this.entries.find((route) => contains(route.prefix, address))
    this.known.set(address, entry)
    return entry
  }
}

/** What routing rules choose where uplinks share; null where they choose nothing, and the main table does. */
export interface RuledUplinks {
  /** The networks that the gateway routes. */
  readonly lans: ReadonlySet<string>
  /** For what comes from a network of the gateway, which is marked with the sender's share. */
  readonly ofLans: UplinkId | null
  /** For all else: rules without a mark stand for those uplinks alone that come before the last that share. */
  readonly ofOthers: UplinkId | null
  /** True where calls are marked with the line that they come in on: of several lines, or with policy routes. */
  readonly marks: boolean
}

export interface Routing extends Forwarding {
  /** By gateway, which uplink its routing rules choose before any default route of its main table. */
  readonly ruled: ReadonlyMap<string, RuledUplinks>
  /**
   * By gateway, those whose turn it is: which of them takes a sender is its hash's choice, so what one of
   * them loses is promised to nobody.
   */
  readonly sharing: ReadonlyMap<string, readonly string[]>
  readonly tunnels: readonly TunnelInterface[]
  readonly routes: ReadonlyMap<string, RoutingTable>
  readonly policyRoutes: ReadonlyMap<string, readonly PolicyRouteMatcher[]>
  /** Prefixes that providers route to the site, by uplink, of those that are whole. */
  readonly routedHere: ReadonlyMap<UplinkId, readonly Prefix4[]>
}

const DEFAULT: Prefix4 = { base: ipv4(0), length: 0 }
const isDefault = ({ prefix }: RouteEntry): boolean => prefix.length === 0

/** True where the way from an uplink's port to the internet is whole. */
function uplinkIsUp(index: PlanIndex, layer2: Layer2, uplink: Uplink): boolean {
  const { failed } = layer2
  if (failed.has(uplink.id)) return false
  // A gateway cannot have one subnet inside and outside.
  if (networkAroundUplink(index, uplink)) return false
  return uplinkEntries(index, layer2, uplink).length > 0
}

function tunnelFaces(
  index: PlanIndex,
  failed: ReadonlySet<string>,
  routing: Pick<Routing, 'uplinks' | 'blackholed' | 'forwards' | 'ruled'>,
): TunnelInterface[] {
  const defaults = projectionIn(index.plan)?.staticDefaults ?? staticDefaults(index)
  const inOrder = uplinksInOrder(index.plan)
  return index.plan.tunnels.flatMap((tunnel) => {
    const isAlone = !earlierAtPort(index.plan, tunnel)
    const iface = readInterface4(tunnel.address)
    if (!iface || index.devices.get(tunnel.deviceId)?.kind !== 'gateway' || failed.has(tunnel.deviceId))
      return []
    const uplinks = routing.uplinks.filter((u) => u.deviceId === tunnel.deviceId)
    // Whoever dials us knows one address, of the first line that can be called; answers leave by the line the
    // call came in on.
    const called = inOrder.find((u) => u.deviceId === tunnel.deviceId && canBeCalled(u))
    // What is handed inside does not arrive at the tunnel.
    const isHanded = called && includes(handedInside(routing, called.id), 'udp', tunnel.listenPort)
    const [first] = uplinks
    // The metric of an uplink's default route is its place, from 1.
    const isPassedBy =
      !routing.ruled.get(tunnel.deviceId)?.ofOthers &&
      (defaults.get(tunnel.deviceId) ?? Infinity) <= inOrder.findIndex((u) => u === first) + 1
    const leaves = first !== undefined && !isPassedBy && !routing.blackholed.has(first.id)
    const carries = (dialled: boolean) =>
      dialled ? !isHanded && uplinks.some((u) => u === called && acceptsInbound(routing, u)) : leaves
    const peers = tunnel.peers.map((peer): TunnelPeer => ({
      id: peer.id,
      kind: peer.kind,
      up: isAlone && !failed.has(tunnel.id) && !failed.has(peer.id) && carries(peer.endpoint === null),
      allowed: readPrefixes4(peer.allowed),
      theirAllowed: readPrefixes4(peer.theirAllowed),
    }))
    const names = { id: tunnel.id, deviceId: tunnel.deviceId }
    return [{ ...names, ...iface, isThere: isAlone, maps: mapsOf(tunnel), peers }]
  })
}

/** By which tunnel; who of its peers is meant, their allowed addresses say. */
const tunnelRoute = (tunnelId: TunnelId) => ({ kind: 'tunnel' as const, via: tunnelId })

function routesOf(
  index: PlanIndex,
  interfaces: readonly Interface4[],
  uplinks: readonly Uplink[],
  tunnels: readonly TunnelInterface[],
): ReadonlyMap<string, RoutingTable> {
  const routes = new Map<string, RouteEntry[]>()
  const add = (deviceId: DeviceId, entry: RouteEntry) =>
    routes.set(deviceId, [...(routes.get(deviceId) ?? []), entry])
  for (const iface of interfaces)
    add(iface.deviceId, { prefix: iface.prefix, kind: 'connected', via: iface.networkId, metric: 0 })
  for (const { deviceId, prefix: text, via, metric } of index.plan.routes) {
    const prefix = orNull(parsePrefix4(text))
    const local = prefix && nextHopPrefix(index, { deviceId, via })
    if (!local) continue
    const through = local.tunnelId === null ? { kind: 'static' as const, via } : tunnelRoute(local.tunnelId)
    add(deviceId, { prefix, ...through, metric })
  }
  for (const tunnel of tunnels) {
    // A kernel takes no route by an interface that is down.
    if (!tunnel.isThere) continue
    add(tunnel.deviceId, { prefix: tunnel.prefix, kind: 'tunnel', via: tunnel.id, metric: 0 })
    // Everything (0.0.0.0/0) is no route of its own: policy routes say who takes it.
    for (const prefix of tunnel.peers.flatMap((p) => p.allowed))
      if (prefix.length > 0) add(tunnel.deviceId, { prefix, kind: 'tunnel', via: tunnel.id, metric: 0 })
  }
  const places = new Map(uplinksInOrder(index.plan).map((u, i) => [u.id, i + 1]))
  for (const uplink of uplinks)
    add(uplink.deviceId, {
      prefix: DEFAULT,
      kind: 'uplink',
      via: uplink.id,
      metric: places.get(uplink.id) ?? 0,
    })
  const inOrder = (list: RouteEntry[]) =>
    list.sort((a, b) => b.prefix.length - a.prefix.length || a.metric - b.metric)
  return new Map([...routes].map(([deviceId, list]) => [deviceId, new RoutingTable(inOrder(list))]))
}

/** Of a gateway's uplinks, all of them and those that are well, both in order. */
function ruledUplinks(index: PlanIndex, own: readonly Uplink[], well: readonly Uplink[]): RuledUplinks {
  const lans = index.plan.networks.filter(({ routerId }) => routerId === own[0]?.deviceId)
  const last = sharingGroups(own).at(-1) ?? []
  const ruled = own.slice(0, Math.max(...last.map((uplink) => own.indexOf(uplink)), -1) + 1)
  const first = (some: readonly Uplink[]) => some.find((uplink) => well.includes(uplink))?.id ?? null
  return {
    lans: new Set(lans.map(({ id }) => id)),
    ofLans: first(ruled),
    ofOthers: first(ruled.filter((uplink) => !last.includes(uplink))),
    marks: own.length > 1 || index.plan.policyRoutes.some(({ deviceId }) => deviceId === own[0]?.deviceId),
  }
}

/** What the gateways of a plan know of exits and of each other, under a failure scenario. */
export function routingOf(
  index: PlanIndex,
  layer2: Layer2,
  interfaces: readonly Interface4[],
  upstreamDown: ReadonlySet<string>,
): Routing {
  const { failed } = layer2
  const well = uplinksInOrder(index.plan).filter((u) => uplinkIsUp(index, layer2, u))
  // Where nothing answers beyond an uplink, its probe finds out, or nobody does.
  const uplinks = well.filter((u) => !upstreamDown.has(u.id) || u.probe === null)
  const blackholed = new Set(uplinks.filter((u) => upstreamDown.has(u.id)).map((u) => u.id))
  const byGateway = groupBy(uplinksInOrder(index.plan), ({ deviceId }) => deviceId)
  const ruled = new Map([...byGateway].map(([id, own]) => [id, ruledUplinks(index, own, uplinks)]))
  const forwards = projectionIn(index.plan)?.forwards ?? index.plan.forwards
  const tunnels = tunnelFaces(index, failed, { uplinks, blackholed, ruled, forwards })
  const policyRoutes = new Map<string, PolicyRouteMatcher[]>()
  for (const route of index.plan.policyRoutes) {
    policyRoutes.set(route.deviceId, [
      ...(policyRoutes.get(route.deviceId) ?? []),
      { route, from: matcherOf(index, route.from), services: servicesOf(route.services, index.services) },
    ])
  }
  const sharing = new Map(
    [...groupBy(uplinks, (u) => u.deviceId)].map(([id, own]) => [
      id,
      uplinkGroup(own, own[0] as Uplink).map((u) => u.id),
    ]),
  )
  return {
    uplinks,
    ruled,
    blackholed,
    sharing,
    tunnels,
    routes: routesOf(index, interfaces, uplinks, tunnels),
    policyRoutes,
    forwards: index.plan.forwards,
    routedHere: new Map(uplinks.map(({ id, facts }) => [id, readPrefixes4(facts.routed4)])),
  }
}

/** True where the provider of an uplink knows a way to an address inside. */
export const isRoutedHere = (
  { routedHere }: Pick<Routing, 'routedHere'>,
  uplinkId: UplinkId,
  address: Ipv4,
): boolean => routedHere.get(uplinkId)?.some((prefix) => contains(prefix, address)) ?? false

/**
 * The peer an address belongs to: the longest of the allowed prefixes; of two alike the later peer has it, as
 * in wg(8).
 */
export function peerFor(iface: TunnelInterface, address: Ipv4): TunnelPeer | null {
  let best: TunnelPeer | null = null
  let length = -1
  for (const peer of iface.peers) {
    for (const prefix of peer.allowed) {
      if (prefix.length < length || !contains(prefix, address)) continue
      best = peer
      length = prefix.length
    }
  }
  return best
}

export interface EgressShare {
  readonly services: ServiceSet
  /** Null where no policy route chose. */
  readonly policyRouteId: string | null
  /** Null where this share leads nowhere. */
  readonly exit: Exit | null
}

const providersOf = (iface: TunnelInterface): TunnelPeer[] =>
  iface.peers.filter((peer) => peer.kind === 'provider' && peer.allowed.some(({ length }) => length === 0))

/** True where a gateway has a way to the internet by a tunnel: its interface is there, whoever is beyond it. */
const hasDefaultPeer = (routing: Routing, tunnelId: TunnelId): boolean =>
  routing.tunnels.some((iface) => iface.id === tunnelId && iface.isThere && providersOf(iface).length > 0)

/** True where what a tunnel carries to the internet gets there: its far end is up and lets this end through. */
export const leadsOutside = ({ tunnels }: Pick<Routing, 'tunnels'>, tunnelId: string): boolean =>
  tunnels.some(
    (iface) =>
      iface.id === tunnelId &&
      providersOf(iface).some(
        ({ up, theirAllowed }) => up && theirAllowed.some((prefix) => contains(prefix, iface.address)),
      ),
  )

/**
 * The default route of a packet: by an uplink that routing rules choose, else of the main table.
 * @param via the interface it comes in by; empty for what a policy route has marked
 */
export function defaultRoute(
  { ruled }: Pick<Routing, 'ruled'>,
  deviceId: DeviceId,
  via: string,
  entry: RouteEntry | undefined,
): RouteEntry | undefined {
  const rules = ruled.get(deviceId)
  const chosen = rules?.lans.has(via) ? rules.ofLans : (rules?.ofOthers ?? null)
  // Of uplinks alone the rules choose as the main table does.
  if (chosen === null || entry?.kind !== 'static') return entry
  return { prefix: DEFAULT, kind: 'uplink', via: chosen, metric: 0 }
}

/**
 * How the services divide over the exits, for a packet at a gateway that only a default route matches.
 * The shares are disjoint and together everything.
 * Replies, and what the gateway itself sends, know no policy routes.
 */
export function egressShares(
  routing: Routing,
  at: { readonly deviceId: DeviceId; readonly via: string; readonly source: Ipv4 },
  entry: RouteEntry | undefined,
  isNewFlow: boolean,
): EgressShare[] {
  const byUplink = (route: RouteEntry | undefined): Exit | null =>
    route?.kind === 'uplink' ? { kind: 'uplink', id: route.via } : null
  const usual = byUplink(entry)
  // What a policy route has marked has no mark of a share.
  const unmarked = byUplink(
    defaultRoute(routing, at.deviceId, '', routing.routes.get(at.deviceId)?.entries.find(isDefault)),
  )
  const shares: EgressShare[] = []
  let open: ServiceSet = EVERYTHING
  const policyRoutes = isNewFlow && at.via !== 'self' ? (routing.policyRoutes.get(at.deviceId) ?? []) : []
  for (const { route, from, services } of policyRoutes) {
    const taken = intersect(open, services)
    if (isNothing(taken) || !from({ via: at.via, address: at.source })) continue
    const there =
      route.out.kind === 'uplink'
        ? routing.uplinks.some((u) => u.id === route.out.id && u.deviceId === at.deviceId)
        : hasDefaultPeer(routing, route.out.id)
    const otherwise = route.orElse === 'next' ? unmarked : null
    shares.push({ services: taken, policyRouteId: route.id, exit: there ? route.out : otherwise })
    open = minus(open, taken)
  }
  if (!isNothing(open)) shares.push({ services: open, policyRouteId: null, exit: usual })
  return shares
}
