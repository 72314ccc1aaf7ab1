// Question: does a packet from here get there, which services may it carry, and does the answer come back?
// Method: the host decides by its own mask, each gateway by longest prefix and ordered rules, each wire by 802.1Q;
// a flow passes where the request is delivered, the rules let it, and the reply finds the same gateways back.
// Source: RFC 1122 section 3.3.1 (hosts), RFC 1812 section 5.2.4 (longest match), RFC 3022 (address translation).
import { contains, networkOf, parseIpv4, parsePrefix4, spaceOf, type Ipv4, type Prefix4 } from '#core/address'
import { bothWays, bridgeNode, makeFabric, type Fabric } from '#core/ethernet'
import { farEnd, portKey, type PlanIndex, type Uplink, type Weather } from '#core/model'
import { accepted, compilePolicy, decide, EVERYTHING, intersect, NOTHING, type CompiledPolicy, type Decision, type ServiceSet } from '#core/policy'
import { endpointsOf, interfacesOf, type Endpoint, type Interface4 } from './endpoints'

/** One end of a flow. */
export type Party =
  | { readonly kind: 'endpoint'; readonly endpoint: Endpoint }
  | { readonly kind: 'gateway'; readonly deviceId: string }
  | { readonly kind: 'internet' }

export type StopCode =
  | 'no-address' | 'no-gateway' | 'gateway-off-link' | 'gateway-unanswered' | 'neighbour-unanswered' | 'isolated'
  | 'no-route' | 'no-uplink' | 'not-addressable' | 'shared-address' | 'too-many-hops' | 'asymmetric' | 'device-off'

export type Step =
  | { readonly kind: 'host'; readonly endpoint: Endpoint; readonly address: Ipv4; readonly towards: 'on-link' | 'gateway'; readonly next: Ipv4 }
  | { readonly kind: 'wire'; readonly from: string; readonly to: string; readonly delivered: boolean }
  | { readonly kind: 'route'; readonly deviceId: string; readonly entry: RouteEntry }
  | { readonly kind: 'rules'; readonly deviceId: string; readonly chain: 'forward' | 'input'; readonly decisions: readonly Decision[] }
  | { readonly kind: 'translate'; readonly deviceId: string; readonly uplinkId: string }

export interface Passage {
  readonly steps: readonly Step[]
  /** What may pass in this direction: everything the rules accept, or nothing where the way ends. */
  readonly services: ServiceSet
  readonly routers: readonly string[]
  readonly stop: StopCode | null
}

export interface RouteEntry {
  readonly prefix: Prefix4
  readonly kind: 'connected' | 'static' | 'uplink'
  /** Network id, next hop as text, or uplink id. */
  readonly via: string
}

/** A plan made ready to be asked, under one weather. */
export interface Site {
  readonly index: PlanIndex
  readonly fabric: Fabric
  readonly interfaces: readonly Interface4[]
  readonly endpoints: readonly Endpoint[]
  readonly policies: ReadonlyMap<string, CompiledPolicy>
  /** Uplinks that are up, first choice first. */
  readonly uplinks: readonly Uplink[]
  readonly routes: ReadonlyMap<string, readonly RouteEntry[]>
}

const DEFAULT: Prefix4 = { base: 0 as Ipv4, length: 0 }
const MOST_HOPS = 16

/** True where the way from an uplink's port to the internet is whole. */
function uplinkIsUp(fabric: Fabric, uplink: Uplink): boolean {
  const { index, failed } = fabric
  if (failed.has(uplink.id) || failed.has(uplink.deviceId)) return false
  const out = { deviceId: uplink.deviceId, portId: uplink.portId }
  return (index.linksAt.get(portKey(out)) ?? []).some((link) => {
    const far = farEnd(link, out).deviceId
    if (failed.has(link.id) || failed.has(far)) return false
    const spread = fabric.spread(bridgeNode(far, uplink.tag ?? 0))
    return [...spread.keys()].some((node) => index.devices.get(node.split('#')[0] ?? '')?.kind === 'cloud')
  })
}

function routesOf(index: PlanIndex, interfaces: readonly Interface4[], uplinks: readonly Uplink[]): Map<string, RouteEntry[]> {
  const routes = new Map<string, RouteEntry[]>()
  const add = (deviceId: string, entry: RouteEntry) => routes.set(deviceId, [...(routes.get(deviceId) ?? []), entry])
  for (const face of interfaces) add(face.deviceId, { prefix: face.prefix, kind: 'connected', via: face.networkId })
  for (const route of index.plan.routes) {
    const prefix = parsePrefix4(route.prefix)
    if (prefix.ok) add(route.deviceId, { prefix: prefix.value, kind: 'static', via: route.via })
  }
  for (const uplink of uplinks) add(uplink.deviceId, { prefix: DEFAULT, kind: 'uplink', via: uplink.id })
  for (const list of routes.values()) list.sort((a, b) => b.prefix.length - a.prefix.length)
  return routes
}

/** Makes a plan ready for questions under a weather. Plan errors end in findings elsewhere; nothing here throws on them. */
export function openSite(index: PlanIndex, weather: Weather): Site {
  const fabric = makeFabric(index, weather)
  const interfaces = interfacesOf(index, fabric.failed)
  const uplinks = [...index.plan.uplinks].sort((a, b) => a.priority - b.priority).filter((u) => uplinkIsUp(fabric, u))
  const policies = new Map(index.plan.policies.map((policy) => [policy.deviceId, compilePolicy(index, policy)]))
  return { index, fabric, interfaces, endpoints: endpointsOf(fabric, interfaces), policies, uplinks, routes: routesOf(index, interfaces, uplinks) }
}

interface Target {
  readonly party: Party
  readonly address: Ipv4
}

const ended = (steps: readonly Step[], routers: readonly string[], stop: StopCode): Passage => ({ steps, routers, stop, services: NOTHING })

function isSelf(site: Site, deviceId: string, address: Ipv4): boolean {
  return site.interfaces.some((face) => face.deviceId === deviceId && face.address === address)
}

/** The last wire: from a node to the target on the same link. */
function deliver(site: Site, from: string, source: Endpoint | null, target: Target, steps: Step[]): StopCode | null {
  if (target.party.kind === 'internet') return 'neighbour-unanswered'
  const node = target.party.kind === 'endpoint'
    ? target.party.endpoint.node
    : site.interfaces.find((face) => face.address === target.address && bothWays(site.fabric, from, face.node))?.node
  if (node === undefined) return 'neighbour-unanswered'
  if (source && target.party.kind === 'endpoint' && source.isolatedOn !== null && source.isolatedOn === target.party.endpoint.isolatedOn) return 'isolated'
  const delivered = bothWays(site.fabric, from, node)
  steps.push({ kind: 'wire', from, to: node, delivered })
  return delivered ? null : 'neighbour-unanswered'
}

interface Arrival {
  readonly deviceId: string
  readonly via: string
  readonly source: Ipv4
}

function throughRouters(site: Site, first: Arrival, target: Target, steps: Step[], fresh: boolean): Passage {
  let at = first
  let services: ServiceSet = EVERYTHING
  const routers: string[] = []
  const rules = (chain: 'forward' | 'input', out: string) => {
    const compiled = site.policies.get(at.deviceId)
    if (!fresh || !compiled || at.via === 'self') return
    const decisions = decide(compiled, chain, { via: at.via, address: at.source }, { via: out, address: target.address })
    steps.push({ kind: 'rules', deviceId: at.deviceId, chain, decisions })
    services = intersect(services, accepted(decisions))
  }
  for (let hop = 0; hop < MOST_HOPS; hop++) {
    routers.push(at.deviceId)
    if (target.party.kind === 'gateway' && (isSelf(site, at.deviceId, target.address) || target.party.deviceId === at.deviceId)) {
      rules('input', 'self')
      return { steps, routers, services, stop: null }
    }
    const entry = site.routes.get(at.deviceId)?.find((route) => contains(route.prefix, target.address))
    if (!entry) return ended(steps, routers, site.uplinks.length === 0 ? 'no-uplink' : 'no-route')
    steps.push({ kind: 'route', deviceId: at.deviceId, entry })
    if (entry.kind === 'uplink') {
      if (target.party.kind !== 'internet' || spaceOf(target.address) === 'private') return ended(steps, routers, 'no-route')
      rules('forward', 'uplink')
      steps.push({ kind: 'translate', deviceId: at.deviceId, uplinkId: entry.via })
      return { steps, routers, services, stop: null }
    }
    const face = entry.kind === 'connected'
      ? site.interfaces.find((f) => f.networkId === entry.via)
      : nextFace(site, at.deviceId, entry.via)
    if (!face) return ended(steps, routers, 'no-route')
    rules('forward', face.networkId)
    if (entry.kind === 'connected') {
      const stop = deliver(site, face.node, null, target, steps)
      return stop ? ended(steps, routers, stop) : { steps, routers, services, stop: null }
    }
    const via = parseIpv4(entry.via)
    const next = via.ok ? site.interfaces.find((f) => f.address === via.value && f.deviceId !== at.deviceId && bothWays(site.fabric, face.node, f.node)) : undefined
    if (!next) return ended(steps, routers, 'neighbour-unanswered')
    steps.push({ kind: 'wire', from: face.node, to: next.node, delivered: true })
    at = { deviceId: next.deviceId, via: next.networkId, source: at.source }
  }
  return ended(steps, routers, 'too-many-hops')
}

function nextFace(site: Site, deviceId: string, via: string): Interface4 | undefined {
  const hop = parseIpv4(via)
  return hop.ok ? site.interfaces.find((f) => f.deviceId === deviceId && contains(f.prefix, hop.value)) : undefined
}

function fromHost(site: Site, endpoint: Endpoint, address: Ipv4, target: Target, fresh: boolean): Passage {
  const steps: Step[] = []
  const own = { base: networkOf(address, endpoint.prefixLength), length: endpoint.prefixLength }
  if (endpoint.how === 'link-local') {
    const home = site.interfaces.find((f) => f.networkId === endpoint.wants)
    if (home) steps.push({ kind: 'wire', from: endpoint.node, to: home.node, delivered: bothWays(site.fabric, endpoint.node, home.node) })
    return ended(steps, [], 'no-address')
  }
  if (contains(own, target.address)) {
    steps.push({ kind: 'host', endpoint, address, towards: 'on-link', next: target.address })
    const stop = deliver(site, endpoint.node, endpoint, target, steps)
    if (stop) return ended(steps, [], stop)
    if (target.party.kind !== 'gateway') return { steps, routers: [], services: EVERYTHING, stop: null }
    return throughRouters(site, { deviceId: target.party.deviceId, via: ingressOf(site, endpoint.node, target.address), source: address }, target, steps, fresh)
  }
  if (endpoint.gateway === null) return ended(steps, [], 'no-gateway')
  steps.push({ kind: 'host', endpoint, address, towards: 'gateway', next: endpoint.gateway })
  if (!contains(own, endpoint.gateway)) return ended(steps, [], 'gateway-off-link')
  const face = site.interfaces.find((f) => f.address === endpoint.gateway && bothWays(site.fabric, endpoint.node, f.node))
  if (!face) {
    const meant = site.interfaces.find((f) => f.address === endpoint.gateway)
    if (meant) steps.push({ kind: 'wire', from: endpoint.node, to: meant.node, delivered: false })
    return ended(steps, [], 'gateway-unanswered')
  }
  steps.push({ kind: 'wire', from: endpoint.node, to: face.node, delivered: true })
  return throughRouters(site, { deviceId: face.deviceId, via: face.networkId, source: address }, target, steps, fresh)
}

function ingressOf(site: Site, from: string, address: Ipv4): string {
  return site.interfaces.find((f) => f.address === address && bothWays(site.fabric, from, f.node))?.networkId ?? ''
}

/** One direction. `fresh`: a new connection that the rules judge; otherwise a reply that follows its flow. */
function oneWay(site: Site, from: Party, fromAddress: Ipv4, target: Target, fresh: boolean): Passage {
  switch (from.kind) {
    case 'endpoint':
      return fromHost(site, from.endpoint, fromAddress, target, fresh)
    case 'gateway':
      if (site.fabric.failed.has(from.deviceId)) return ended([], [], 'device-off')
      return throughRouters(site, { deviceId: from.deviceId, via: 'self', source: fromAddress }, target, [], fresh)
    case 'internet': {
      if (target.party.kind === 'endpoint' && fresh) return ended([], [], 'not-addressable')
      const uplink = fresh ? site.uplinks.find((u) => u.outside === 'own') : site.uplinks[0]
      if (!uplink) return ended([], [], site.uplinks.length > 0 ? 'shared-address' : 'no-uplink')
      return throughRouters(site, { deviceId: uplink.deviceId, via: 'uplink', source: fromAddress }, target, [], fresh)
    }
  }
}

export interface Flow {
  readonly request: Passage
  /** Null where the request never arrives. */
  readonly reply: Passage | null
  /** Services that get through and back. */
  readonly services: ServiceSet
  readonly stop: StopCode | null
}

/** Exactly what gets from one address to another and back. */
export function flowBetween(site: Site, from: Party, fromAddress: Ipv4, to: Party, toAddress: Ipv4): Flow {
  if (to.kind === 'endpoint' && to.endpoint.how === 'link-local') {
    return { request: ended([], [], 'no-address'), reply: null, services: NOTHING, stop: 'no-address' }
  }
  const request = oneWay(site, from, fromAddress, { party: to, address: toAddress }, true)
  if (request.stop) return { request, reply: null, services: NOTHING, stop: request.stop }
  const reply = oneWay(site, to, toAddress, { party: from, address: fromAddress }, false)
  if (reply.stop) return { request, reply, services: NOTHING, stop: reply.stop }
  const back = [...reply.routers].reverse()
  const symmetric = back.length === request.routers.length && back.every((id, i) => id === request.routers[i])
  if (!symmetric) return { request, reply, services: NOTHING, stop: 'asymmetric' }
  return { request, reply, services: request.services, stop: null }
}
