// Question: which hosts does the plan put where, and what address, mask and gateway does each get?
// Method: alike members of a group are one endpoint; DHCP is answered where frames to a serving interface and
// back exist and the pool lies in that interface's subnet; otherwise the host gives itself a link-local address.
// Source: RFC 2131 (DHCP), RFC 3927 (link-local), RFC 1122 section 3.3.1 (a host's own mask and gateway).
import { routedPorts } from '#core/policy'
import {
  contains,
  ipv4,
  networkOf,
  parseIpv4,
  parsePrefix4,
  parseRange4,
  rangesWithout,
  type Ipv4,
  type Prefix4,
  type Range4,
} from '#core/address'
import { byText, groupBy, memoOn } from '#core/base'
import { bothWays, bridgeNode, endNode, roomOf, UNTAGGED, type Fabric } from '#core/ethernet'
import { farEnd, isEnd, isVlanAware, portKey, type Device, type Fixed, type Network } from '#core/model'

/** A gateway's address in a network, or on a routed port (which stands for a network of its own), as its configuration states it: the address typed, the subnet's length. */
export interface Interface4 {
  readonly networkId: string
  readonly vlan: number
  readonly deviceId: string
  readonly node: string
  /** Where it is heard at layer 2, as `roomOf` numbers it: never equal where its device is gone. */
  readonly room: number
  readonly address: Ipv4
  /** The prefix the interface is on. It follows the address, so a mistyped gateway moves it, as in a kernel. */
  readonly prefix: Prefix4
}

export interface Endpoint {
  readonly id: string
  readonly deviceId: string
  readonly portIds: readonly string[]
  readonly count: number
  readonly node: string
  /** As of an interface: who is of one room hears each other. */
  readonly room: number
  /** Network it is meant to be in. */
  readonly wants: string | null
  /** Network whose address it really has; null where it has none. */
  readonly networkId: string | null
  readonly how: 'static' | 'reserved' | 'leased' | 'link-local'
  /** Every address it may have. */
  readonly ranges: readonly Range4[]
  readonly prefixLength: number
  readonly gateway: Ipv4 | null
  /** SSID it is on, where its stations are isolated from each other. */
  readonly isolatedOn: string | null
}

const LINK_LOCAL: Range4 = { from: ipv4(0xa9fe0100), to: ipv4(0xa9fefeff) }

export function interfacesOf(fabric: Fabric): Interface4[] {
  const { index, failed } = fabric
  const out: Interface4[] = []
  const at = (node: string) => ({ node, room: roomOf(fabric, node) })
  for (const network of index.plan.networks) {
    const address = parseIpv4(network.gateway)
    const subnet = parsePrefix4(network.subnet)
    const router = index.devices.get(network.routerId)
    if (!address.ok || !subnet.ok || router?.kind !== 'gateway' || failed.has(router.id)) continue
    const length = subnet.value.length
    const prefix = { base: networkOf(address.value, length), length }
    out.push({
      networkId: network.id,
      vlan: network.vlan,
      deviceId: router.id,
      ...at(bridgeNode(router.id, network.vlan)),
      address: address.value,
      prefix,
    })
  }
  for (const { device, port, face } of routedPorts(index)) {
    if (!failed.has(device.id))
      out.push({
        networkId: portKey({ deviceId: device.id, portId: port.id }),
        vlan: 0,
        deviceId: device.id,
        ...at(endNode(device.id, port.id)),
        ...face,
      })
  }
  return out
}

interface Lease {
  readonly networkId: string
  readonly ranges: readonly Range4[]
  readonly prefixLength: number
  readonly gateway: Ipv4
}

/** True where the gateway serves a network itself, or relays to a server that stands and that it hears. */
function answers(fabric: Fabric, interfaces: readonly Interface4[], network: Network): boolean {
  if (network.dhcp !== 'relay') return network.dhcp === 'serve'
  for (const home of fabric.index.plan.networks) {
    const server = home.fixed.find((f) => f.ip === network.relayTo && f.deviceId !== null)
    const device = server && fabric.index.devices.get(server.deviceId ?? '')
    const face = interfaces.find((i) => i.networkId === home.id)
    if (!device || !face || fabric.failed.has(device.id)) continue
    const nodes = isEnd(device)
      ? device.ports.map((p) => endNode(device.id, p.id))
      : [bridgeNode(device.id, isVlanAware(device) ? home.vlan : UNTAGGED)]
    if (device.id === network.routerId || nodes.some((node) => bothWays(fabric, node, face.node))) return true
  }
  return false
}

/** A range without the parts that are not handed out; itself where nothing readable is left. */
function without(pool: Range4, exclusions: Network['exclusions']): readonly Range4[] {
  const cuts = exclusions.flatMap((e) => {
    const range = parseRange4(`${e.from}-${e.to}`)
    return range.ok ? [range.value] : []
  })
  const left = rangesWithout(pool, cuts)
  return left.length > 0 ? left : [pool]
}

/** What is offered in each room, from the lowest VLAN that answers there. */
function offersOf(fabric: Fabric, interfaces: readonly Interface4[]): ReadonlyMap<number, Lease> {
  const offers = new Map<number, Lease>()
  for (const face of [...interfaces].sort((a, b) => a.vlan - b.vlan)) {
    const network = fabric.index.networks.get(face.networkId)
    const { room } = face
    if (!network?.pool || offers.has(room) || !answers(fabric, interfaces, network)) continue
    const from = parseIpv4(network.pool.from)
    const to = parseIpv4(network.pool.to)
    if (!from.ok || !to.ok || from.value > to.value) continue
    if (!contains(face.prefix, from.value) || !contains(face.prefix, to.value)) continue
    offers.set(room, {
      networkId: network.id,
      ranges: without({ from: from.value, to: to.value }, network.exclusions),
      prefixLength: face.prefix.length,
      gateway: face.address,
    })
  }
  return offers
}

const known = new WeakMap<
  Fabric,
  { readonly interfaces: readonly Interface4[]; readonly offers: ReadonlyMap<number, Lease> }
>()

/** The lease a DHCP client at a node is offered; null for none. */
export function leaseAt(fabric: Fabric, interfaces: readonly Interface4[], node: string): Lease | null {
  let held = known.get(fabric)
  if (held?.interfaces !== interfaces)
    known.set(fabric, (held = { interfaces, offers: offersOf(fabric, interfaces) }))
  return held.offers.get(roomOf(fabric, node)) ?? null
}

function addressing(
  fabric: Fabric,
  interfaces: readonly Interface4[],
  node: string,
  home: Network | undefined,
  held: Held | null,
) {
  if (held?.typed) return held.typed
  const lease = leaseAt(fabric, interfaces, node)
  if (!lease)
    return {
      networkId: null,
      how: 'link-local' as const,
      ranges: [LINK_LOCAL],
      prefixLength: 16,
      gateway: null,
    }
  const kept = lease.networkId === home?.id ? (held?.reserved ?? null) : null
  return {
    networkId: lease.networkId,
    how: kept ? ('reserved' as const) : ('leased' as const),
    ranges: kept ?? lease.ranges,
    prefixLength: lease.prefixLength,
    gateway: lease.gateway,
  }
}

/** Members of an end device that behave alike: same neighbour, same port mode there, same SSID, link up or not. */
function likeness(fabric: Fabric, device: Device, portId: string): string {
  const ref = { deviceId: device.id, portId }
  return (fabric.index.linksAt.get(portKey(ref)) ?? [])
    .map((link) => {
      const far = farEnd(link, ref)
      const peer = fabric.index.devices.get(far.deviceId)
      const mode = peer?.ports.find((p) => p.id === far.portId)?.mode
      const ssid = link.medium.kind === 'wifi' ? link.medium.ssidId : ''
      return `${far.deviceId}|${JSON.stringify(mode)}|${ssid}|${fabric.failed.has(link.id)}`
    })
    .sort(byText)
    .join('+')
}

function isolationAt(fabric: Fabric, device: Device, portId: string): string | null {
  for (const link of fabric.index.linksAt.get(portKey({ deviceId: device.id, portId })) ?? []) {
    if (link.medium.kind !== 'wifi') continue
    const ssid = fabric.index.ssids.get(link.medium.ssidId)
    if (ssid?.isolation) return ssid.id
  }
  return null
}

/** A fixed address as it is read once: what a host has that has it typed in, or the one address that is reserved for it. */
interface Held {
  readonly fixed: Fixed
  readonly typed:
    (Pick<Endpoint, 'networkId' | 'ranges' | 'prefixLength' | 'gateway'> & { readonly how: 'static' }) | null
  readonly reserved: readonly Range4[] | null
}
/** Fixed addresses of a network by the device that has them. */
const fixedIn = memoOn((network: Network): ReadonlyMap<string, readonly Held[]> => {
  const subnet = parsePrefix4(network.subnet)
  const read = (fixed: Fixed): Held => {
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
})

function hostEndpoints(fabric: Fabric, interfaces: readonly Interface4[], device: Device): Endpoint[] {
  const home = device.wants === null ? undefined : fabric.index.networks.get(device.wants)
  const fixed = home ? (fixedIn(home).get(device.id) ?? []) : []
  const perPort = device.ports.map((port, i) => ({ port, fixed: fixed[i] ?? null }))
  // One socket is like itself.
  const groups = groupBy(perPort, ({ port, fixed: own }) =>
    own ? `fixed ${own.fixed.id}` : perPort.length === 1 ? '' : likeness(fabric, device, port.id),
  )
  const hostsPerPort = Math.max(1, Math.floor(device.count / Math.max(1, device.ports.length)))
  return [...groups.values()].flatMap((members, i) => {
    const first = members[0]
    if (!first) return []
    const node = endNode(device.id, first.port.id)
    return [
      {
        id: groups.size === 1 ? device.id : `${device.id}~${i + 1}`,
        deviceId: device.id,
        portIds: members.map((m) => m.port.id),
        count: hostsPerPort * members.length,
        node,
        room: roomOf(fabric, node),
        wants: device.wants,
        ...addressing(fabric, interfaces, node, home, first.fixed),
        isolatedOn: isolationAt(fabric, device, first.port.id),
      },
    ]
  })
}

/** Every endpoint of the plan, device by device in plan order: hosts first as planned, then devices' own addresses. */
export function endpointsOf(fabric: Fabric, interfaces: readonly Interface4[]): Endpoint[] {
  return fabric.index.plan.devices.flatMap((device) => {
    if (
      fabric.failed.has(device.id) ||
      device.wants === null ||
      device.kind === 'gateway' ||
      device.kind === 'cloud'
    )
      return []
    if (isEnd(device)) return hostEndpoints(fabric, interfaces, device)
    const home = fabric.index.networks.get(device.wants)
    const node = bridgeNode(device.id, isVlanAware(device) ? (home?.vlan ?? UNTAGGED) : UNTAGGED)
    const fixed = (home && fixedIn(home).get(device.id)?.[0]) ?? null
    return [
      {
        id: device.id,
        deviceId: device.id,
        portIds: [],
        count: 1,
        node,
        room: roomOf(fabric, node),
        wants: device.wants,
        ...addressing(fabric, interfaces, node, home, fixed),
        isolatedOn: null,
      },
    ]
  })
}
