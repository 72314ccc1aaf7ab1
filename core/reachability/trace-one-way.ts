// Question: does a packet from here get there, and which services may it carry?
// Method: the host decides by its own mask, each gateway by longest prefix and ordered rules, each wire by
// 802.1Q; a path ends where it is delivered, or where something stops it.
// Source:
// RFC 1122 section 3.3.1 (hosts), RFC 1812 section 5.2.4 (longest match), RFC 3022 (address translation).
import type { DeviceId, TunnelId } from '#core/schema'
import { contains, formatIpv4, ipv4, lastOf, networkOf, parseIpv4, type Ipv4 } from '#core/address'
import { translateSource } from '#core/queries'
import { allOf, allowOnly, EVERYTHING, isNothing, minus, tunnelInterface, union } from '#core/filter'
import { interfaceOnSegment, type DataPlane } from './plane'
import type { Endpoint, Interface4 } from './endpoints'
import { isKeptApart } from './isolation'
import { isOutside, leaveForInternet } from './internet-egress'
import { acceptsInbound, forwardedTo, handedInside, handedTo } from './forwarding'
import { defaultRoute, isRoutedHere, peerFor, type RouteEntry } from './routing'
import {
  stopped,
  TraceState,
  type FlowEnd,
  type Party,
  type PathTrace,
  type RouterIngress,
  type StopCode,
  type TraceOptions,
} from './trace'

const MOST_HOPS = 16

function isOwnAddress(plane: DataPlane, deviceId: DeviceId, address: Ipv4): boolean {
  return (
    (plane.interfacesByAddress.get(address)?.some((iface) => iface.deviceId === deviceId) ?? false) ||
    plane.tunnels.some((tunnel) => tunnel.deviceId === deviceId && tunnel.address === address)
  )
}

/** Whoever sends on a link, by the length of the subnet that it takes the link for. */
type Sender = Interface4 | Endpoint

/**
 * True of the broadcast address of its subnet: frames for it are for nobody alone.
 * Links of two addresses have none.
 * Source: RFC 919 section 7, RFC 3021 section 2.
 */
const isBroadcast = (address: Ipv4, length: number): boolean =>
  length <= 30 && address === lastOf({ base: networkOf(address, length), length })

/** The last wire: from a node to the target on the same link. */
function deliver(
  plane: DataPlane,
  trace: TraceState,
  from: Sender,
  source: Endpoint | null,
): StopCode | null {
  const { party, address } = trace.target
  const length = 'prefix' in from ? from.prefix.length : from.prefixLength
  if (party.kind === 'internet' || party.kind === 'peer') return 'neighbour-unanswered'
  if (isBroadcast(address, length)) return 'neighbour-unanswered'
  const to = party.kind === 'endpoint' ? party.endpoint : interfaceOnSegment(plane, from, address)
  if (to === undefined) return 'neighbour-unanswered'
  if (source && party.kind === 'endpoint' && isKeptApart(source.isolation, party.endpoint.isolation))
    return 'isolated'
  const delivered = from.broadcastDomain === to.broadcastDomain
  trace.steps?.push({ kind: 'wire', from: from.node, to: to.node, delivered })
  return delivered ? null : 'neighbour-unanswered'
}

/** The interface of a router on whose subnet a next hop lies. */
export function interfaceTowards(
  plane: DataPlane,
  deviceId: DeviceId,
  nextHop: string,
): Interface4 | undefined {
  const address = parseIpv4(nextHop)
  if (!address.ok) return undefined
  return plane.interfaces.find(
    (iface) => iface.deviceId === deviceId && contains(iface.prefix, address.value),
  )
}

/** The interface of another router that has a next hop's address and is heard there. */
function nextRouter(
  plane: DataPlane,
  deviceId: DeviceId,
  out: Interface4,
  nextHop: string,
): Interface4 | undefined {
  const address = parseIpv4(nextHop)
  if (!address.ok) return undefined
  const own = plane.interfacesByAddress.get(address.value) ?? []
  return own.find((iface) => iface.deviceId !== deviceId && iface.broadcastDomain === out.broadcastDomain)
}

/** What the gateway itself answers to the outside leaves by the line that was called, where calls are marked. */
function answerRoute(plane: DataPlane, trace: TraceState, deviceId: DeviceId): RouteEntry | undefined {
  const isAnswer = !trace.isNewFlow && trace.target.party.kind === 'internet'
  if (!isAnswer || !plane.ruled.get(deviceId)?.marks) return undefined
  const called = plane.uplinks.find((one) => one.deviceId === deviceId && acceptsInbound(plane, one))
  return called && { prefix: { base: ipv4(0), length: 0 }, kind: 'uplink', via: called.id, metric: 0 }
}

/** Its route to an address; routing rules are of IPv4 alone. */
function routeOf(
  plane: DataPlane,
  trace: TraceState,
  { deviceId, via }: RouterIngress,
): RouteEntry | undefined {
  const entry = plane.routes.get(deviceId)?.lookup(trace.target.address)
  const isDefault = entry === undefined || entry.prefix.length === 0
  const answer = isDefault && via === 'self' && !plane.ipv6 ? answerRoute(plane, trace, deviceId) : undefined
  if (answer) return answer
  return isDefault && !plane.ipv6 ? defaultRoute(plane, deviceId, via, entry) : entry
}

/**
 * What one router does with a packet: the trace where it ends there, or the packet as it comes to the next
 * router.
 */
function traceRouter(plane: DataPlane, trace: TraceState, ingress: RouterIngress): PathTrace | RouterIngress {
  const { party, address } = trace.target
  const { deviceId } = ingress
  trace.enter(deviceId)
  if (party.kind === 'gateway' && (party.deviceId === deviceId || isOwnAddress(plane, deviceId, address))) {
    trace.applyFilter(ingress, 'input', 'self')
    return trace.delivered()
  }
  // What is for its own address it takes for itself, whoever else was given that.
  if (party.kind === 'endpoint' && isOwnAddress(plane, deviceId, address))
    return trace.ended('neighbour-unanswered')
  const entry = routeOf(plane, trace, ingress)
  const byDefault = entry === undefined || entry.prefix.length === 0
  if (byDefault && party.kind === 'internet' && isOutside(plane, address)) {
    const ended = leaveByDefault(plane, trace, ingress, entry)
    if (ended) return ended
  }
  if (entry === undefined) return trace.ended(plane.uplinks.length === 0 ? 'no-uplink' : 'no-route')
  trace.steps?.push({ kind: 'route', deviceId, entry })
  return forward(plane, trace, ingress, entry)
}

/** Out to the internet; null where a static default route takes what no policy route does. */
function leaveByDefault(
  plane: DataPlane,
  trace: TraceState,
  ingress: RouterIngress,
  entry: RouteEntry | undefined,
): PathTrace | null {
  const egress = leaveForInternet(plane, trace, ingress, entry?.kind === 'uplink' ? entry : undefined)
  if (!egress.stop) trace.leave(egress.filter)
  if (entry?.kind !== 'static') return trace.ended(egress.stop ?? 'no-uplink')
  trace.narrow(egress.rest)
  return null
}

/** Sends a packet on by a route. */
function forward(
  plane: DataPlane,
  trace: TraceState,
  ingress: RouterIngress,
  entry: RouteEntry,
): PathTrace | RouterIngress {
  const { deviceId } = ingress
  const { address } = trace.target
  switch (entry.kind) {
    case 'uplink':
      return trace.ended('no-route')
    case 'tunnel':
      trace.applyFilter(ingress, 'forward', tunnelInterface(entry.via))
      return trace.closed(intoTunnel(plane, trace, entry.via, ingress.source))
    case 'connected': {
      const out = plane.interfaceOfNetwork.get(entry.via)
      if (!out) return trace.ended('no-route')
      trace.applyFilter(ingress, 'forward', out.networkId)
      return trace.closed(deliver(plane, trace, out, null))
    }
    case 'static': {
      const out = interfaceTowards(plane, deviceId, entry.via)
      if (!out) return trace.ended('no-route')
      trace.applyFilter(ingress, 'forward', out.networkId)
      const next = nextRouter(plane, deviceId, out, entry.via)
      if (!next && entry.via === formatIpv4(address)) return trace.closed(deliver(plane, trace, out, null))
      if (!next) return trace.ended('neighbour-unanswered')
      trace.steps?.push({ kind: 'wire', from: out.node, to: next.node, delivered: true })
      return { ...ingress, deviceId: next.deviceId, via: next.networkId }
    }
  }
}

function traceRouters(plane: DataPlane, trace: TraceState, first: RouterIngress): PathTrace {
  let ingress = first
  for (let hop = 0; hop < MOST_HOPS; hop++) {
    const next = traceRouter(plane, trace, ingress)
    if ('filter' in next) return next
    ingress = next
  }
  return trace.ended('too-many-hops')
}

/** From a host that only has the address it gave itself. */
function fromLinkLocal(plane: DataPlane, trace: TraceState, endpoint: Endpoint): PathTrace {
  const home = plane.interfaces.find((iface) => iface.networkId === endpoint.homeNetworkId)
  const delivered = endpoint.broadcastDomain === home?.broadcastDomain
  if (home) trace.steps?.push({ kind: 'wire', from: endpoint.node, to: home.node, delivered })
  return trace.ended('no-address')
}

function fromHost(plane: DataPlane, trace: TraceState, endpoint: Endpoint, address: Ipv4): PathTrace {
  const { address: target } = trace.target
  if (endpoint.how === 'link-local') return fromLinkLocal(plane, trace, endpoint)
  const isOnLink = networkOf(target, endpoint.prefixLength) === networkOf(address, endpoint.prefixLength)
  return isOnLink ? toNeighbour(plane, trace, endpoint, address) : toGateway(plane, trace, endpoint, address)
}

/** To an address that the sender takes for one of its own link. */
function toNeighbour(plane: DataPlane, trace: TraceState, endpoint: Endpoint, address: Ipv4): PathTrace {
  const { party, address: target } = trace.target
  trace.steps?.push({ kind: 'host', endpoint, address, towards: 'on-link', next: target })
  const stop = deliver(plane, trace, endpoint, endpoint)
  if (stop) return trace.ended(stop)
  if (party.kind !== 'gateway') return trace.delivered()
  const via = interfaceOnSegment(plane, endpoint, target)?.networkId ?? ''
  return traceRouters(plane, trace, { deviceId: party.deviceId, via, source: address, target })
}

function toGateway(plane: DataPlane, trace: TraceState, endpoint: Endpoint, address: Ipv4): PathTrace {
  const { steps } = trace
  const { gateway, prefixLength } = endpoint
  if (gateway === null) return trace.ended('no-gateway')
  steps?.push({ kind: 'host', endpoint, address, towards: 'gateway', next: gateway })
  if (networkOf(gateway, prefixLength) !== networkOf(address, prefixLength))
    return trace.ended('gateway-off-link')
  const ingress = interfaceOnSegment(plane, endpoint, gateway)
  if (!ingress) {
    const [meant] = plane.interfacesByAddress.get(gateway) ?? []
    if (meant) steps?.push({ kind: 'wire', from: endpoint.node, to: meant.node, delivered: false })
    return trace.ended('gateway-unanswered')
  }
  steps?.push({ kind: 'wire', from: endpoint.node, to: ingress.node, delivered: true })
  const { deviceId, networkId: via } = ingress
  return traceRouters(plane, trace, { deviceId, via, source: address, target: trace.target.address })
}

/**
 * Out into a tunnel: the peer to whom the address belongs, and whether it takes what comes from here, by the
 * address it knows it by.
 * Replies come from the address that was called, which may be the sender's own.
 */
function intoTunnel(plane: DataPlane, trace: TraceState, tunnelId: TunnelId, source: Ipv4): StopCode | null {
  const { party, address } = trace.target
  const iface = plane.tunnels.find((tunnel) => tunnel.id === tunnelId)
  const peer = iface && peerFor(iface, address)
  if (!iface || !peer) return 'no-peer'
  const known = translateSource(iface.maps, source)
  trace.steps?.push({
    kind: 'tunnel',
    tunnelId,
    peerId: peer.id,
    inward: false,
    known: known === source ? null : known,
  })
  if (!peer.up) return 'tunnel-down'
  if (party.kind !== 'peer' || party.peerId !== peer.id) return 'no-peer'
  const takes = (sender: Ipv4) => peer.theirAllowed.some((prefix) => contains(prefix, sender))
  return takes(known) || (!trace.isNewFlow && takes(source)) ? null : 'peer-refuses'
}

/** From a peer: what its own configuration sends, and what the gateway takes from it. */
function fromPeer(
  plane: DataPlane,
  trace: TraceState,
  from: Party & { kind: 'peer' },
  source: Ipv4,
): PathTrace {
  const { address: target } = trace.target
  const iface = plane.tunnels.find((tunnel) => tunnel.id === from.tunnelId)
  const peer = iface?.peers.find((p) => p.id === from.peerId)
  if (!iface || !peer) return stopped('no-peer')
  const known = translateSource(iface.maps, target)
  trace.steps?.push({
    kind: 'tunnel',
    tunnelId: iface.id,
    peerId: peer.id,
    inward: true,
    known: known === target ? null : known,
  })
  if (!peer.up) return trace.ended('tunnel-down')
  if (!peer.theirAllowed.some((prefix) => contains(prefix, target) || contains(prefix, known)))
    return trace.ended('peer-sends-not')
  if (peerFor(iface, source)?.id !== peer.id) return trace.ended('no-peer')
  return traceRouters(plane, trace, {
    deviceId: iface.deviceId,
    via: tunnelInterface(iface.id),
    source,
    target,
  })
}

/**
 * A call from the internet by IPv6: without translation everybody can be called whose prefix the outside has
 * a way to.
 */
function callByIpv6(plane: DataPlane, trace: TraceState, via: Omit<RouterIngress, 'deviceId'>): PathTrace {
  const uplinkIds = plane.ipv6?.uplinksOf(trace.target.address) ?? []
  if (uplinkIds.length === 0) return stopped('not-global')
  const uplink = plane.uplinks.find(({ id }) => uplinkIds.includes(id))
  if (!uplink) return stopped('no-uplink')
  if (plane.blackholed.has(uplink.id)) return stopped('upstream-down')
  return traceRouters(plane, trace, { deviceId: uplink.deviceId, ...via })
}

/** A call from the internet to the gateway itself, to an address that is known outside, or to a port forward. */
function callByIpv4(plane: DataPlane, trace: TraceState, via: Omit<RouterIngress, 'deviceId'>): PathTrace {
  const { party, address } = trace.target
  const unreachable = plane.uplinks.length > 0 ? 'shared-address' : 'no-uplink'
  if (party.kind === 'gateway') {
    const uplink = plane.uplinks.find((one) => acceptsInbound(plane, one))
    if (!uplink) return stopped(unreachable)
    const path = traceRouters(plane, trace, { deviceId: uplink.deviceId, ...via })
    // A forward may lead back to the gateway, by any of its addresses.
    const back = handedTo(plane, uplink.id, (to) => isOwnAddress(plane, uplink.deviceId, to))
    const own = union(minus(EVERYTHING, handedInside(plane, uplink.id)), back)
    return { ...path, filter: allOf([path.filter, allowOnly(own)]) }
  }
  const direct = plane.uplinks.find(({ id }) => isRoutedHere(plane, id, address) && !plane.blackholed.has(id))
  if (direct) return traceRouters(plane, trace, { deviceId: direct.deviceId, ...via })
  const forwarded = party.kind === 'endpoint' ? forwardedTo(plane, address) : null
  if (forwarded === null) return stopped('not-addressable')
  if (isNothing(forwarded.services)) return stopped(unreachable)
  const { deviceId, uplinkIds, services } = forwarded
  trace.steps?.push({ kind: 'forwarded', deviceId, uplinkIds })
  const path = traceRouters(plane, trace, { deviceId, ...via })
  return { ...path, filter: allOf([path.filter, allowOnly(services)]) }
}

/** From the internet; a reply comes in where its flow went out. */
function fromInternet(
  plane: DataPlane,
  trace: TraceState,
  source: Ipv4,
  lastRouter: string | undefined,
): PathTrace {
  const via = { via: 'uplink', source, target: trace.target.address }
  if (!trace.isNewFlow) {
    const deviceId = lastRouter ?? plane.uplinks[0]?.deviceId
    return deviceId === undefined ? stopped('no-uplink') : traceRouters(plane, trace, { deviceId, ...via })
  }
  return plane.ipv6 ? callByIpv6(plane, trace, via) : callByIpv4(plane, trace, via)
}

/** The path of a packet in one direction. */
export function traceOneWay(
  plane: DataPlane,
  from: FlowEnd,
  target: FlowEnd,
  options: TraceOptions,
): PathTrace {
  const { party, address } = from
  const trace = new TraceState(target, options)
  switch (party.kind) {
    case 'endpoint':
      return fromHost(plane, trace, party.endpoint, address)
    case 'gateway': {
      if (plane.failed.has(party.deviceId)) return stopped('device-off')
      const ingress = { deviceId: party.deviceId, via: 'self', source: address, target: target.address }
      return traceRouters(plane, trace, ingress)
    }
    case 'peer':
      return fromPeer(plane, trace, party, address)
    case 'internet':
      return fromInternet(plane, trace, address, options.lastRouter)
  }
}
