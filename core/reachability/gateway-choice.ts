// Question: which gateway does somebody mean by "the gateway", and by which address?
// Method: a host means the router of the network that it is in, or where it has no address of the one it wants;
// a peer the device its tunnel ends on, the internet the device of the first uplink.
// Everything that speaks of the gateway asks here, so that the matrix, the path trace and the repairs mean
// the same device.
// Source: the plan's own semantics; no figures used.
import { parseIpv4, type Ipv4 } from '#core/address'
import { uplinksInOrder, type PlanIndex } from '#core/queries'
import type { Network, Plan, DeviceId } from '#core/schema'
import type { DataPlane } from './plane'
import type { Party } from './trace'
import type { TunnelInterface } from './routing'

export interface GatewayChoice {
  readonly deviceId: DeviceId
  readonly address: Ipv4
}

/** The gateway whose uplink outsiders call first; the first gateway of all where no uplink is planned. */
export function outerGatewayId(plan: Pick<Plan, 'devices' | 'uplinks'>): string | undefined {
  return uplinksInOrder(plan)[0]?.deviceId ?? plan.devices.find((device) => device.kind === 'gateway')?.id
}

/**
 * The network by whose gateway address a device is known: the first that it routes, else the first that has
 * such an address.
 */
function networkOfGateway(index: PlanIndex, deviceId: DeviceId): Network | undefined {
  const addressed = index.plan.networks.filter((network) => network.gateway !== '')
  return addressed.find((network) => network.routerId === deviceId) ?? addressed[0]
}

/** The gateway as seen from, or towards, a party; null where there is none, or its address cannot be read. */
export function gatewaySeenBy(
  site: { readonly index: PlanIndex; readonly tunnels: readonly TunnelInterface[] },
  party: Party,
): GatewayChoice | null {
  const { index } = site
  if (party.kind === 'peer') {
    const tunnel = site.tunnels.find((iface) => iface.id === party.tunnelId)
    if (tunnel) return { deviceId: tunnel.deviceId, address: tunnel.address }
  }
  const networkId =
    party.kind === 'endpoint' ? (party.endpoint.networkId ?? party.endpoint.homeNetworkId) : null
  const own = networkId === null ? undefined : index.networks.get(networkId)
  const deviceId = own?.routerId ?? outerGatewayId(index.plan)
  if (deviceId === undefined) return null
  const address = parseIpv4((own ?? networkOfGateway(index, deviceId))?.gateway ?? '')
  return address.ok ? { deviceId, address: address.value } : null
}

/**
 * The gateway as it calls a party: a host with several addresses sends from that of the interface by which it sends
 * (RFC 1122 section 3.3.4.3), which is another than the party's own network has where the party's address lies in
 * another network.
 */
export function gatewayCalling(
  site: Parameters<typeof gatewaySeenBy>[0] & Pick<DataPlane, 'routes' | 'interfaceOfNetwork'>,
  party: Party,
): GatewayChoice | null {
  const seen = gatewaySeenBy(site, party)
  const called = party.kind === 'endpoint' ? party.endpoint.ranges[0]?.from : undefined
  if (!seen || called === undefined) return seen
  const route = site.routes.get(seen.deviceId)?.lookup(called)
  const facing = route?.kind === 'connected' ? site.interfaceOfNetwork.get(route.via) : undefined
  return facing ? { deviceId: seen.deviceId, address: facing.address } : seen
}
