// Question: which addresses, routes and routing rules does a Linux router need for what the plan says?
// Method: one batch for `ip`; a table for each uplink and each policy route, chosen by mark.
// Source: ip-batch as of ip(8), ip-route(8), ip-rule(8).
import { parseIpv4, parsePrefix4, parsePrefix6, routerIpv6 } from '#core/address'
import { routedPorts } from '#core/filter'
import { findPort, ipv6PrefixOf } from '#core/queries'
import type { Network, Plan, PolicyRoute, Tunnel, DeviceId } from '#core/schema'
import { orNull } from '#core/util'
import { choiceMark, gatewayParts, lanName, lineMark, routedName, type GatewayParts } from './interfaces'
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

/** A tunnel's addresses, and a route to each prefix that its peers may use but a default. */
function tunnelLines({ name, tunnel }: { readonly name: string; readonly tunnel: Tunnel }): string[] {
  const routes = tunnel.peers
    .flatMap((p) => p.allowed)
    .filter((text) => {
      const prefix = orNull(parsePrefix4(text)) ?? (tunnel.address6 ? orNull(parsePrefix6(text)) : null)
      return prefix !== null && prefix.length > 0
    })
    .map((text) => `route replace ${text} dev ${name}`)
  return [
    `addr add ${tunnel.address} dev ${name}`,
    ...(tunnel.address6 ? [`addr add ${tunnel.address6} dev ${name}`] : []),
    `link set ${name} mtu ${tunnel.mtu} up`,
    ...new Set(routes),
  ]
}

const staticRoutes = (plan: Plan, deviceId: DeviceId): string[] =>
  plan.routes
    .filter((r) => r.deviceId === deviceId && (parsePrefix4(r.prefix).ok || parsePrefix6(r.prefix).ok))
    .map((r) => `route add ${r.prefix} via ${r.via}${r.metric > 0 ? ` metric ${r.metric}` : ''}`)

function policyRouteLines({ tunnels }: GatewayParts, policyRoute: PolicyRoute, place: number): string[] {
  const { out } = policyRoute
  const table = choiceMark(place)
  const tunnel = out.kind === 'tunnel' ? tunnels.find((t) => t.tunnel.id === out.id) : undefined
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
    ...uplinks.map((_, i) => `rule add pref ${200 + i} fwmark ${lineMark(i + 1)} lookup ${lineMark(i + 1)}`),
    ...policyRoutes.flatMap((policyRoute, i) => policyRouteLines(parts, policyRoute, i + 1)),
    ...sharingRules(uplinks),
  ]
}

/** Who has a provider's prefix goes out by that provider's uplink. */
function delegatedRules({ uplinks }: GatewayParts): string[] {
  const rules = uplinks.flatMap(({ facts }, i) =>
    facts.delegated6 === null
      ? []
      : [`rule add pref ${300 + i} from ${facts.delegated6} lookup ${lineMark(i + 1)}`],
  )
  return rules.length > 0 ? ['rule add pref 299 to ::/0 lookup main suppress_prefixlength 0', ...rules] : []
}

/**
 * Addresses of the VLAN, routed and tunnel interfaces, the planned routes and the choice between uplinks, as
 * lines for `ip -batch`.
 * The uplinks' own addresses come from their providers, and with each its default route: in the main table
 * with the uplink's place as metric, and in the table of `lineMark`, and of each policy route that names the
 * uplink.
 */
export function ipBatch(plan: Plan, deviceId: DeviceId): string {
  const parts = gatewayParts(plan, deviceId)
  return [
    ...plan.networks.filter((n) => n.routerId === deviceId).flatMap(networkAddresses),
    ...routedAddresses(parts, deviceId),
    ...parts.tunnels.flatMap(tunnelLines),
    ...staticRoutes(plan, deviceId),
    ...choosingRules(parts),
    ...delegatedRules(parts),
    '',
  ].join('\n')
}
