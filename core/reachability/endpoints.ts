// Question: which hosts does the plan put where, and what address, mask and gateway does each get?
// Method: alike members of a group are one endpoint; a host that is offered no lease gives itself a link-local
// address.
// Source: RFC 3927 (link-local), RFC 1122 section 3.3.1 (a host's own mask and gateway).
import { routedPorts } from '#core/filter'
import { ipv4, parseIpv4, parsePrefix4, type Ipv4, type Prefix4, type Range4 } from '#core/address'
import { keepsAddress, type Lease, type Leases } from '#core/dhcp'
import { byText, groupBy } from '#core/util'
import { bridgeNode, endNode, UNTAGGED, type Layer2, type Layer2Node } from '#core/layer2'
import {
  defineStage,
  farEnd,
  hostInterfaces,
  isHost,
  isVlanAware,
  networkInterface,
  portKey,
  type PlanIndex,
} from '#core/queries'
import { isolationsAt, type Isolation } from './isolation'
import type { Device, StaticAssignment, Network, DeviceId, NetworkId, PortId } from '#core/schema'

/**
 * A gateway's address in a network, or on a routed port (which stands for a network of its own), as its
 * configuration states it: the address typed, the subnet's length.
 */
export interface Interface4 {
  readonly networkId: NetworkId
  readonly vlan: number
  readonly deviceId: DeviceId
  readonly node: Layer2Node
  /**
   * Where it is heard at layer 2, as `Layer2.broadcastDomain` numbers it: never equal where its device is
   * gone.
   */
  readonly broadcastDomain: number
  readonly address: Ipv4
  /**
   * The prefix the interface is on.
   * It follows the address, so a mistyped gateway moves it, as in a kernel.
   */
  readonly prefix: Prefix4
}

export interface Endpoint {
  readonly id: string
  readonly deviceId: DeviceId
  readonly portIds: readonly string[]
  readonly count: number
  readonly node: Layer2Node
  /** As of an interface: who is of one broadcast domain hears each other. */
  readonly broadcastDomain: number
  /** Network it is meant to be in. */
  readonly homeNetworkId: string | null
  /** Network whose address it really has; null where it has none. */
  readonly networkId: NetworkId | null
  readonly how: 'static' | 'reserved' | 'leased' | 'link-local'
  /** Every address it may have. */
  readonly ranges: readonly Range4[]
  readonly prefixLength: number
  readonly gateway: Ipv4 | null
  /** Each access point that keeps it apart from other stations, its own first. */
  readonly isolation: readonly Isolation[]
}

const LINK_LOCAL: Range4 = { from: ipv4(0xa9fe0100), to: ipv4(0xa9fefeff) }

/** Every address of a gateway that stands: of its networks in plan order, then of its routed ports. */
export function interfacesOf(index: PlanIndex, layer2: Layer2): Interface4[] {
  const { failed } = layer2
  const out: Interface4[] = []
  const at = (node: Layer2Node) => ({ node, broadcastDomain: layer2.broadcastDomain(node) })
  for (const network of index.plan.networks) {
    const own = networkInterface(network)
    const router = index.devices.get(network.routerId)
    if (!own || router?.kind !== 'gateway' || failed.has(router.id)) continue
    out.push({
      networkId: network.id,
      vlan: network.vlan,
      deviceId: router.id,
      ...at(bridgeNode(router.id, network.vlan)),
      ...own,
    })
  }
  for (const { deviceId, portId, address, prefix } of routedPorts(index)) {
    if (failed.has(deviceId)) continue
    const networkId = portKey({ deviceId, portId })
    out.push({ networkId, vlan: 0, deviceId, ...at(endNode(deviceId, portId)), address, prefix })
  }
  return out
}

export interface HostContext {
  readonly index: PlanIndex
  readonly layer2: Layer2
}

/** What a client has that is offered no lease (RFC 3927). */
const NO_LEASE = {
  networkId: null,
  how: 'link-local',
  ranges: [LINK_LOCAL],
  prefixLength: 16,
  gateway: null,
} as const

/** The address that a server keeps for a host of its network; null where it keeps none. */
function keptFor(lease: Lease, home: Network | undefined, held: Held | null): readonly Range4[] | null {
  const reserved = lease.networkId === home?.id ? (held?.reserved ?? null) : null
  return reserved?.every(({ from }) => keepsAddress(lease, from)) ? reserved : null
}

/** What a host at a node has: what is typed into it, or what it leases, or the address it gives itself. */
function addressing(lease: Lease | undefined, home: Network | undefined, held: Held | null) {
  if (held?.typed) return held.typed
  const kept = lease ? keptFor(lease, home, held) : null
  if (!lease || (!kept && lease.ranges.length === 0)) return NO_LEASE
  return {
    networkId: lease.networkId,
    how: kept ? ('reserved' as const) : ('leased' as const),
    ranges: kept ?? lease.ranges,
    prefixLength: lease.prefixLength,
    gateway: lease.gateway,
  }
}

/**
 * Members of an end device that behave alike: same neighbour, same port mode there, same SSID, link up or
 * not.
 */
function likeness({ index, layer2 }: HostContext, device: Device, portId: PortId): string {
  const ref = { deviceId: device.id, portId }
  return (index.linksAt.get(portKey(ref)) ?? [])
    .map((link) => {
      const far = farEnd(link, ref)
      const peer = index.devices.get(far.deviceId)
      const mode = peer?.ports.find((p) => p.id === far.portId)?.mode
      const ssid = link.medium.kind === 'wifi' ? link.medium.ssidId : ''
      return `${far.deviceId}|${JSON.stringify(mode)}|${ssid}|${layer2.failed.has(link.id)}`
    })
    .sort(byText)
    .join('+')
}

/**
 * A fixed address as it is read once: what a host has that has it typed in, or the one address that is
 * reserved for it.
 */
interface Held {
  readonly fixed: StaticAssignment
  readonly typed:
    (Pick<Endpoint, 'networkId' | 'ranges' | 'prefixLength' | 'gateway'> & { readonly how: 'static' }) | null
  readonly reserved: readonly Range4[] | null
}
/** Fixed addresses of a network by the device that has them. */
function fixedIn(network: Network): ReadonlyMap<string, readonly Held[]> {
  const subnet = parsePrefix4(network.subnet)
  const read = (fixed: StaticAssignment): Held => {
    const [own, typed] = [parseIpv4(fixed.ip), parseIpv4(fixed.gateway ?? network.gateway)]
    const ranges = own.ok ? [{ from: own.value, to: own.value }] : null
    const byHand = fixed.how === 'static' && ranges
    return {
      fixed,
      reserved: fixed.how === 'reserved' ? ranges : null,
      typed: byHand
        ? {
            networkId: network.id,
            how: 'static',
            ranges: byHand,
            prefixLength: fixed.mask ?? (subnet.ok ? subnet.value.length : 32),
            gateway: typed.ok ? typed.value : null,
          }
        : null,
    }
  }
  return groupBy(
    network.fixed.filter((f) => f.deviceId !== null).map(read),
    ({ fixed }) => fixed.deviceId ?? '',
  )
}

/** Fixed addresses of the networks that devices want, by network and device. */
const fixedByNetwork = defineStage(
  'fixed addresses by network',
  ({ plan }) => new Map(plan.networks.map((network) => [network.id, fixedIn(network)])),
)
const fixedOf = (index: PlanIndex, { id }: Device, networkId: string | null): readonly Held[] =>
  index
    .get(fixedByNetwork)
    .get(networkId ?? '')
    ?.get(id) ?? []

function hostEndpoints(context: HostContext, leases: Leases, device: Device): Endpoint[] {
  const { index, layer2 } = context
  const interfaces = hostInterfaces(index, device).map((iface) => {
    const fixed = fixedOf(index, device, iface.network.id)[iface.nth] ?? null
    return { ...iface, fixed }
  })
  // One socket is like itself.
  const groups = groupBy(interfaces, ({ port, tag, network, fixed: own }) => {
    if (own) return `fixed ${own.fixed.id}`
    return interfaces.length === 1 ? '' : `${network.id} ${tag} ${likeness(context, device, port.id)}`
  })
  const hostsPerPort = Math.max(1, Math.floor(device.count / Math.max(1, device.ports.length)))
  return [...groups.values()].flatMap((members, i) => {
    const first = members[0]
    if (!first) return []
    const home = index.networks.get(first.network.id)
    const node = endNode(device.id, first.port.id, first.tag)
    const broadcastDomain = layer2.broadcastDomain(node)
    return [
      {
        id: groups.size === 1 ? device.id : `${device.id}~${i + 1}`,
        deviceId: device.id,
        portIds: members.map((m) => m.port.id),
        count: hostsPerPort * members.length,
        node,
        broadcastDomain,
        homeNetworkId: first.network.id,
        ...addressing(leases.get(broadcastDomain), home, first.fixed),
        isolation: isolationsAt(index, device, first.port.id),
      },
    ]
  })
}

/** A device's own address, where it has one: what it is managed by. */
function managementEndpoint({ index, layer2 }: HostContext, leases: Leases, device: Device): Endpoint {
  const home = index.networks.get(device.homeNetworkId ?? '')
  const node = bridgeNode(device.id, isVlanAware(device) ? (home?.vlan ?? UNTAGGED) : UNTAGGED)
  const broadcastDomain = layer2.broadcastDomain(node)
  return {
    id: device.id,
    deviceId: device.id,
    portIds: [],
    count: 1,
    node,
    broadcastDomain,
    homeNetworkId: device.homeNetworkId,
    ...addressing(leases.get(broadcastDomain), home, fixedOf(index, device, device.homeNetworkId)[0] ?? null),
    isolation: [],
  }
}

/**
 * Every endpoint of the plan, device by device in plan order: hosts first as planned, then devices' own
 * addresses.
 */
export function endpointsOf(context: HostContext, leases: Leases): Endpoint[] {
  return context.index.plan.devices.flatMap((device) => {
    if (context.layer2.failed.has(device.id) || device.homeNetworkId === null) return []
    if (device.kind === 'gateway' || device.kind === 'cloud') return []
    return isHost(device)
      ? hostEndpoints(context, leases, device)
      : [managementEndpoint(context, leases, device)]
  })
}
