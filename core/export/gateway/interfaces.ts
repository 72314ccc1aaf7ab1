// What a gateway's interfaces are called, and all that its files ask of the plan.
import { formatIpv4, parseIpv4 } from '#core/address'
import { routedPorts } from '#core/filter'
import { findPort, indexPlan, uplinksInOrder, type PlanIndex } from '#core/queries'
import type { Plan, PolicyRoute, Tunnel, Uplink, DeviceId } from '#core/schema'
import { speaksIpv6 } from '#core/reachability'

/** Name of the interface that carries a VLAN. */
export const lanName = (vlan: number): string => `lan.${vlan}`
/** Name of an uplink's interface, by its place in the order of priority, from 1. */
export const wanName = (place: number): string => `wan${place}`
/** Name of a tunnel's interface, by its place among the gateway's tunnels, from 1. */
export const wgName = (place: number): string => `wg${place}`
/** Name of a routed port's interface, by its place among the gateway's routed ports, from 1. */
export const routedName = (place: number): string => `rt${place}`

/** Firewall mark, and number of the routing table, of an uplink by its place from 1. */
export const uplinkMark = (place: number): number => 0x100 + place
/** The same of a policy route. */
export const choiceMark = (place: number): number => 0x1000 + place

/** A gateway as its files see it. */
export interface GatewayParts {
  readonly index: PlanIndex
  /** Names of the interfaces of its VLANs. */
  readonly lans: readonly string[]
  /** Names of the interfaces of its uplinks, in order of priority. */
  readonly wans: readonly string[]
  readonly uplinks: readonly Uplink[]
  readonly tunnels: readonly { readonly name: string; readonly tunnel: Tunnel }[]
  readonly policyRoutes: readonly PolicyRoute[]
  /** Some network behind it speaks IPv6. */
  readonly ipv6: boolean
  /** The gateway's own addresses inside. */
  readonly own: readonly string[]
}

const ownInside = (plan: Plan, index: PlanIndex, deviceId: DeviceId): string[] => [
  ...new Set(
    [
      ...plan.networks.filter((n) => n.routerId === deviceId).map((n) => n.gateway),
      ...plan.tunnels.filter((t) => t.deviceId === deviceId).map((t) => t.address.split('/')[0] ?? ''),
      ...routedPorts(index)
        .filter((port) => port.deviceId === deviceId)
        .map((port) => formatIpv4(port.address)),
    ].filter((text) => parseIpv4(text).ok),
  ),
]

const routesIpv6 = (index: PlanIndex, deviceId: DeviceId): boolean =>
  routedPorts(index).some((port) => {
    const mode = findPort(index, port)?.mode
    return port.deviceId === deviceId && mode?.mode === 'routed' && mode.address6 !== null
  })

export function gatewayParts(plan: Plan, deviceId: DeviceId): GatewayParts {
  const index = indexPlan(plan)
  const networks = plan.networks.filter((n) => n.routerId === deviceId)
  const uplinks = uplinksInOrder(plan).filter((u) => u.deviceId === deviceId)
  const tunnels = plan.tunnels
    .filter((t) => t.deviceId === deviceId)
    .map((tunnel, i) => ({ name: wgName(i + 1), tunnel }))
  return {
    index,
    lans: [...new Set(networks.map((n) => lanName(n.vlan)))],
    wans: uplinks.map((_, i) => wanName(i + 1)),
    uplinks,
    tunnels,
    policyRoutes: plan.policyRoutes.filter((r) => r.deviceId === deviceId),
    ipv6: networks.some(speaksIpv6) || tunnels.some((t) => t.tunnel.address6) || routesIpv6(index, deviceId),
    own: ownInside(plan, index, deviceId),
  }
}
