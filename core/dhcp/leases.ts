// Question: which lease is offered where?
// Method: DHCP is answered where frames to a serving interface and back exist and the pool lies in that
// interface's subnet; a relay answers where a server stands behind it that it hears.
// Source: RFC 2131 (DHCP), RFC 1542 section 4 (relay agents).
import { contains, parseRange4, rangesWithout, type Ipv4, type Prefix4, type Range4 } from '#core/address'
import { bothWays, bridgeNode, endNode, UNTAGGED, type Layer2, type Layer2Node } from '#core/layer2'
import { isHost, isVlanAware, type PlanIndex } from '#core/queries'
import type { Network, NetworkId } from '#core/schema'

/** A gateway's interface, as far as DHCP asks of it. */
export interface ServingInterface {
  readonly networkId: NetworkId
  readonly vlan: number
  readonly node: Layer2Node
  readonly broadcastDomain: number
  readonly address: Ipv4
  readonly prefix: Prefix4
}

export interface Lease {
  readonly networkId: NetworkId
  readonly ranges: readonly Range4[]
  readonly prefixLength: number
  readonly gateway: Ipv4
}

/** Leases by broadcast domain. */
export type Leases = ReadonlyMap<number, Lease>

interface LeaseContext {
  readonly index: PlanIndex
  readonly layer2: Layer2
}

/** True where the gateway serves a network itself, or relays to a server that stands and that it hears. */
function answers(
  { index, layer2 }: LeaseContext,
  interfaces: readonly ServingInterface[],
  network: Network,
): boolean {
  if (network.dhcp !== 'relay') return network.dhcp === 'serve'
  for (const home of index.plan.networks) {
    const server = home.fixed.find((f) => f.ip === network.relayTo && f.deviceId !== null)
    const device = server && index.devices.get(server.deviceId ?? '')
    const iface = interfaces.find((i) => i.networkId === home.id)
    if (!device || !iface || layer2.failed.has(device.id)) continue
    const nodes = isHost(device)
      ? device.ports.map((p) => endNode(device.id, p.id))
      : [bridgeNode(device.id, isVlanAware(device) ? home.vlan : UNTAGGED)]
    if (device.id === network.routerId || nodes.some((node) => bothWays(layer2, node, iface.node)))
      return true
  }
  return false
}

/** A range without the parts that are not handed out; itself where nothing readable is left. */
function without(pool: Range4, exclusions: Network['exclusions']): readonly Range4[] {
  const cuts = exclusions.flatMap((textRange) => {
    const range = parseRange4(`${textRange.from}-${textRange.to}`)
    return range.ok ? [range.value] : []
  })
  const left = rangesWithout(pool, cuts)
  return left.length > 0 ? left : [pool]
}

/** What is offered in each broadcast domain, from the lowest VLAN that answers there. */
export function leasesOf(context: LeaseContext, interfaces: readonly ServingInterface[]): Leases {
  const leases = new Map<number, Lease>()
  for (const iface of [...interfaces].sort((a, b) => a.vlan - b.vlan)) {
    const network = context.index.networks.get(iface.networkId)
    if (!network?.pool || leases.has(iface.broadcastDomain) || !answers(context, interfaces, network))
      continue
    const pool = parseRange4(`${network.pool.from}-${network.pool.to}`)
    if (!pool.ok || !contains(iface.prefix, pool.value.from) || !contains(iface.prefix, pool.value.to))
      continue
    leases.set(iface.broadcastDomain, {
      networkId: network.id,
      ranges: without(pool.value, network.exclusions),
      prefixLength: iface.prefix.length,
      gateway: iface.address,
    })
  }
  return leases
}
