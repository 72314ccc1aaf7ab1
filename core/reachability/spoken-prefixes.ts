// Question: which IPv6 prefixes does a plan speak of, and who speaks of them?
// Method: read from interfaces, tunnels, peers, routes and typed addresses; none is judged here.
// Source: RFC 4291 section 2.3 (prefixes as text).
import { parsePrefix6, readInterface6, type Prefix6 } from '#core/address'
import { orNull } from '#core/util'
import { ipv6PrefixOf, typedIpv6 } from '#core/queries'
import type { Device, Network, NetworkId, Plan, StaticAssignment, Tunnel } from '#core/schema'

/** True where hosts of a network make themselves IPv6 addresses. */
export const speaksIpv6 = (network: Network): boolean => ipv6PrefixOf(network) !== null

export const routedFace = (port: Device['ports'][number]) =>
  port.mode.mode === 'routed' && port.mode.address6 ? readInterface6(port.mode.address6) : null
export const tunnelFace = (tunnel: Tunnel) => (tunnel.address6 ? readInterface6(tunnel.address6) : null)
export const hostPrefix = (text: string): Prefix6 | null => readInterface6(`${text}/128`)?.prefix ?? null
export const readAll = (texts: readonly string[]): Prefix6[] =>
  texts.flatMap((text) => orNull(parsePrefix6(text)) ?? [])

/** An address typed into a device of a network. */
interface TypedAddress {
  readonly networkId: NetworkId
  readonly fixed: StaticAssignment
  readonly address: Prefix6
  /** The subnet it takes itself to be in. */
  readonly prefix: Prefix6
}
const typedIn = (network: Network): TypedAddress[] =>
  network.fixed.flatMap((fixed) => {
    const iface = fixed.deviceId === null ? null : typedIpv6(network, fixed)
    return iface ? [{ networkId: network.id, fixed, ...iface }] : []
  })

/** What of a plan speaks IPv6. */
export type Ipv6Parts = Pick<Plan, 'networks' | 'uplinks' | 'devices' | 'tunnels' | 'routes'>

/** Every prefix that a plan speaks of, by who speaks of it. */
export interface SpokenPrefixes {
  /**
   * Prefixes of interfaces, tunnels, far subnets and routes, and the single addresses by which they are
   * named.
   */
  readonly inside: readonly Prefix6[]
  readonly addresses: readonly Prefix6[]
  /** What peers allow of ours. */
  readonly theirs: readonly Prefix6[]
  readonly typed: readonly TypedAddress[]
  /** What rules, intents and groups speak of. */
  readonly selected: readonly Prefix6[]
}

export function spokenPrefixes(plan: Ipv6Parts, selected: readonly Prefix6[]): SpokenPrefixes {
  const ifaces = [
    ...plan.devices.flatMap((device) => device.ports.flatMap((port) => routedFace(port) ?? [])),
    ...plan.tunnels.flatMap((tunnel) => tunnelFace(tunnel) ?? []),
  ]
  const peers = plan.tunnels.filter((tunnel) => tunnel.address6).flatMap((tunnel) => tunnel.peers)
  const routes = plan.routes.filter((route) => parsePrefix6(route.prefix).ok)
  const inside = [
    ...ifaces.map((iface) => iface.prefix),
    ...readAll(peers.flatMap((peer) => peer.allowed)),
    ...readAll(routes.map((route) => route.prefix)),
  ]
  return {
    inside: inside.filter((prefix) => prefix.length > 0),
    addresses: [
      ...ifaces.map((iface) => iface.address),
      ...routes.flatMap((route) => hostPrefix(route.via) ?? []),
    ],
    theirs: readAll(peers.flatMap((peer) => peer.theirAllowed)),
    typed: plan.networks.filter(speaksIpv6).flatMap(typedIn),
    selected,
  }
}
