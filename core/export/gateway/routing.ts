// Question: which addresses, routes and routing rules does a Linux router need for what the plan says?
// Method: one batch for `ip`; a table for each uplink and each policy route, chosen by mark.
// Source: ip-batch as of ip(8), ip-route(8), ip-rule(8).
import {
  formatPrefix4,
  formatPrefix6,
  parseIpv4,
  parsePrefix4,
  parsePrefix6,
  routerIpv6,
} from '#core/address'
import { localPrefixes, nextHopPrefix, routedPorts } from '#core/filter'
import { earlierAtPort, findPort, ipv6PrefixOf } from '#core/queries'
import type { Network, Plan, PolicyRoute, DeviceId } from '#core/schema'
import { orNull } from '#core/util'
import { choiceMark, gatewayParts, lanName, uplinkMark, routedName, type GatewayParts } from './interfaces'
import { hashComment } from '../hash-comment'
import { sharingRules } from './sharing'

function networkAddresses(network: Network): string[] {
  const subnet = orNull(parsePrefix4(network.subnet))
  const ipv6 = ipv6PrefixOf(network)
  const name = lanName(network.vlan)
  return [
    ...(subnet && parseIpv4(network.gateway).ok
      ? [`addr add ${network.gateway}/${subnet.length} dev ${name}`]
      : []),
    ...(ipv6 ? [`addr add ${routerIpv6(ipv6)}/${ipv6.length} dev ${name}`] : []),
  ]
}

function routedAddresses({ index }: GatewayParts, deviceId: DeviceId): string[] {
  return routedPorts(index)
    .filter((port) => port.deviceId === deviceId)
    .flatMap((port, i) => {
      const mode = findPort(index, port)?.mode
      if (mode?.mode !== 'routed') return []
      return [mode.address, mode.address6]
        .filter((address) => address)
        .map((address) => `addr add ${address} dev ${routedName(i + 1)}`)
    })
}

type NamedTunnel = GatewayParts['tunnels'][number]

/** The name of the tunnel that has the port of this one; null where it comes up. */
const takenBy = ({ tunnels }: GatewayParts, { tunnel }: NamedTunnel): string | null => {
  const earlier = earlierAtPort({ tunnels: tunnels.map((named) => named.tunnel) }, tunnel)
  return tunnels.find((named) => named.tunnel === earlier)?.name ?? null
}

const tunnelLines = (parts: GatewayParts, named: NamedTunnel): string[] => {
  const { name, tunnel } = named
  const other = takenBy(parts, named)
  const start = `link set ${name} mtu ${tunnel.mtu} up`
  return [
    `addr add ${tunnel.address} dev ${name}`,
    ...(tunnel.address6 ? [`addr add ${tunnel.address6} dev ${name}`] : []),
    other === null ? start : hashComment(`${start}: ${other} has its port, and it has no routes`),
  ]
}

/** A route as a line of the batch; a kernel takes one of each prefix and metric. */
interface RouteLine {
  readonly prefix: string
  readonly metric: number
  readonly by: string
}

/** Static routes whose next hop is heard, as far as the plan tells. */
const staticRoutes = ({ index }: GatewayParts, deviceId: DeviceId): RouteLine[] =>
  index.plan.routes
    .filter((route) => route.deviceId === deviceId)
    .filter((route) =>
      parsePrefix4(route.prefix).ok ? nextHopPrefix(index, route) !== null : parsePrefix6(route.prefix).ok,
    )
    .map(({ prefix, via, metric }) => ({ prefix, metric, by: `via ${via}` }))

/** The tunnels that come up. */
const upIn = (parts: GatewayParts): NamedTunnel[] =>
  parts.tunnels.filter((named) => takenBy(parts, named) === null)

/** A route to each prefix that a tunnel's peers may use but a default. */
const tunnelRoutes = ({ name, tunnel }: NamedTunnel): RouteLine[] =>
  tunnel.peers
    .flatMap((peer) => peer.allowed)
    .filter((text) => {
      const prefix = orNull(parsePrefix4(text)) ?? (tunnel.address6 ? orNull(parsePrefix6(text)) : null)
      return prefix !== null && prefix.length > 0
    })
    .map((prefix) => ({ prefix, metric: 0, by: `dev ${name}` }))

/** A prefix of either family as it is written canonically. */
function prefixText(text: string): string {
  const [ipv4, ipv6] = [orNull(parsePrefix4(text)), orNull(parsePrefix6(text))]
  if (ipv4) return formatPrefix4(ipv4)
  return ipv6 ? formatPrefix6(ipv6) : text
}

/**
 * Static routes, then those of tunnels; of several to one prefix with one metric the first, as the kernel takes no
 * second.
 * To what the gateway stands on itself the kernel has a route already, of IPv4 with the metric 0.
 */
function routeLines(parts: GatewayParts, deviceId: DeviceId): string[] {
  const taken = new Set(
    localPrefixes(parts.index, deviceId).map(({ prefix }) => `${formatPrefix4(prefix)} 0`),
  )
  return [...staticRoutes(parts, deviceId), ...upIn(parts).flatMap(tunnelRoutes)].map(
    ({ prefix, metric, by }) => {
      const key = `${prefixText(prefix)} ${metric}`
      const isTaken = taken.has(key)
      taken.add(key)
      return isTaken
        ? hashComment(`${prefix} ${by}: another route to it comes first`)
        : `route add ${prefix} ${by}${metric > 0 ? ` metric ${metric}` : ''}`
    },
  )
}

function policyRouteLines(parts: GatewayParts, policyRoute: PolicyRoute, place: number): string[] {
  const { out } = policyRoute
  const table = choiceMark(place)
  const tunnel = out.kind === 'tunnel' ? upIn(parts).find((t) => t.tunnel.id === out.id) : undefined
  return [
    `rule add pref ${1000 + place - 1} fwmark ${table} lookup ${table}`,
    ...(tunnel ? [`route add default dev ${tunnel.name} table ${table}`] : []),
    ...(policyRoute.orElse === 'refuse'
      ? [`route add unreachable default table ${table} metric 4278198272`]
      : []),
  ]
}

/** The choice between several uplinks, and of policy routes. */
function choosingRules(parts: GatewayParts): string[] {
  const { uplinks, policyRoutes } = parts
  if (uplinks.length < 2 && policyRoutes.length === 0) return []
  return [
    'rule add pref 100 lookup main suppress_prefixlength 0',
    ...uplinks.map(
      (_, i) => `rule add pref ${200 + i} fwmark ${uplinkMark(i + 1)} lookup ${uplinkMark(i + 1)}`,
    ),
    ...policyRoutes.flatMap((policyRoute, i) => policyRouteLines(parts, policyRoute, i + 1)),
    ...sharingRules(uplinks),
  ]
}

/** Who has a provider's prefix goes out by that provider's uplink. */
function delegatedRules({ uplinks }: GatewayParts): string[] {
  const rules = uplinks.flatMap(({ facts }, i) =>
    facts.delegated6 === null
      ? []
      : [`rule add pref ${300 + i} from ${facts.delegated6} lookup ${uplinkMark(i + 1)}`],
  )
  return rules.length > 0 ? ['rule add pref 299 lookup main suppress_prefixlength 0', ...rules] : []
}

/**
 * Addresses of the VLAN, routed and tunnel interfaces, the planned routes and the choice between uplinks, as
 * lines for `ip -batch`; rules of IPv6 are `ip6Rules`.
 * The uplinks' own addresses come from their providers, and with each its default route: in the main table
 * with the uplink's place as metric, and in the table of `uplinkMark`, and of each policy route that names the
 * uplink.
 */
export function ipBatch(plan: Plan, deviceId: DeviceId): string {
  const parts = gatewayParts(plan, deviceId)
  return [
    ...plan.networks.filter((n) => n.routerId === deviceId).flatMap(networkAddresses),
    ...routedAddresses(parts, deviceId),
    ...parts.tunnels.flatMap((named) => tunnelLines(parts, named)),
    ...routeLines(parts, deviceId),
    ...choosingRules(parts),
    '',
  ].join('\n')
}

/**
 * Routing rules of IPv6, as lines for `ip -6 -batch`; null for none.
 * A line of a batch takes no options, and `ip rule` without one is of IPv4, whatever addresses it names.
 */
export function ip6Rules(plan: Plan, deviceId: DeviceId): string | null {
  const rules = delegatedRules(gatewayParts(plan, deviceId))
  return rules.length > 0 ? [...rules, ''].join('\n') : null
}
