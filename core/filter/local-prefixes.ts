// Question: on which subnets does a gateway stand itself, and by which of its interfaces?
// Method: its networks, its routed ports and its tunnels, in the order in which its files bring them up.
// Source: RFC 1812 section 4.2.2.11 (directly connected networks).
import { contains, parseIpv4, readInterface4 } from '#core/address'
import type { Ipv4, Prefix4 } from '#core/address'
import type { DeviceId, StaticRoute, TunnelId } from '#core/schema'
import { defineStage, earlierAtPort, networkInterface, type PlanIndex } from '#core/queries'
import { orNull } from '#core/util'
import { routedPorts } from './address-atoms'

/** A subnet that a gateway stands on, by an interface that comes up. */
export interface LocalPrefix {
  readonly prefix: Prefix4
  readonly address: Ipv4
  /** The tunnel whose subnet it is; null for a network or a routed port. */
  readonly tunnelId: TunnelId | null
}

function findLocal(index: PlanIndex, deviceId: DeviceId): LocalPrefix[] {
  const { networks, tunnels } = index.plan
  const ofNetworks = networks.flatMap((network) => {
    const own = network.routerId === deviceId ? networkInterface(network) : null
    return own ? [{ ...own, tunnelId: null }] : []
  })
  const ofPorts = routedPorts(index)
    .filter((port) => port.deviceId === deviceId)
    .map(({ prefix, address }) => ({ prefix, address, tunnelId: null }))
  const ofTunnels = tunnels.flatMap((tunnel) => {
    const own = tunnel.deviceId === deviceId ? readInterface4(tunnel.address) : null
    return own && !earlierAtPort(index.plan, tunnel)
      ? [{ prefix: own.prefix, address: own.address, tunnelId: tunnel.id }]
      : []
  })
  return [...ofNetworks, ...ofPorts, ...ofTunnels]
}

/** As many gateways as are told apart at once. */
const MOST_GATEWAYS = 200
const stage = defineStage('subnets of a gateway', findLocal, { keys: MOST_GATEWAYS })
export const localPrefixes = (index: PlanIndex, deviceId: DeviceId): readonly LocalPrefix[] =>
  index.get(stage, deviceId)

/**
 * Where a static route's next hop is heard; null where its router stands on no subnet with it, or has the address
 * itself: such a route is not taken, by this engine as by a kernel.
 */
export function nextHopPrefix(
  index: PlanIndex,
  { deviceId, via }: Pick<StaticRoute, 'deviceId' | 'via'>,
): LocalPrefix | null {
  const hop = orNull(parseIpv4(via))
  if (hop === null) return null
  const local = localPrefixes(index, deviceId)
  // The address of an interface that is down is the gateway's own all the same.
  const ofTunnels = index.plan.tunnels.filter((tunnel) => tunnel.deviceId === deviceId)
  if (ofTunnels.some((tunnel) => readInterface4(tunnel.address)?.address === hop)) return null
  if (local.some(({ address }) => address === hop)) return null
  return local.find(({ prefix }) => contains(prefix, hop)) ?? null
}
