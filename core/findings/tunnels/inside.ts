// Question: is a tunnel's own subnet, the address of its far end, and the size of its packets its own?
// Method: the subnet against every network, each endpoint against what the tunnel carries, the MTU against the least
// that IPv6 asks.
// Source: RFC 1812 section 2.2.5.2 (one subnet on one link), wg(8) (a route to the endpoint outside the tunnel),
// RFC 8200 section 5 (1,280 bytes).
import {
  contains,
  contains6,
  overlaps,
  parseIpv4,
  parsePrefix6,
  readInterface4,
  readPrefixes4,
} from '#core/address'
import { earlierAtPort, tunnelRoom } from '#core/queries'
import type { Plan, Tunnel } from '#core/schema'
import { orNull } from '#core/util'
import { draft, set, type Draft, type Mend } from '../finding'

/** Least MTU of a link that carries IPv6, bytes. */
const LEAST_IPV6 = 1280

/** Networks that have addresses of the tunnel's own subnet: which of the two one of them is on, nobody can say. */
export function subnetFindings(plan: Plan, { id, name, address }: Tunnel): Draft[] {
  const inside = readInterface4(address)
  if (!inside) return []
  return plan.networks
    .filter((network) => readPrefixes4([network.subnet]).some((subnet) => overlaps(subnet, inside.prefix)))
    .map((network) => {
      const values = { tunnel: name, address, network: network.name, subnet: network.subnet, key: network.id }
      return draft('V21', 'blocker', ['tunnels', id, 'address'], values)
    })
}

/** The host of an endpoint, an IPv6 address without its brackets. */
const hostOf = (endpoint: string): string => endpoint.replace(/:\d+$/, '').replace(/^\[(.*)\]$/, '$1')

/** True of an address of either family that lies in one of some prefixes; of a name nobody knows. */
function isWithin(host: string, prefixes: readonly string[]): boolean {
  const ipv4 = parseIpv4(host)
  if (ipv4.ok) return readPrefixes4(prefixes).some((prefix) => contains(prefix, ipv4.value))
  const address = orNull(parsePrefix6(`${host}/128`))
  return (
    address !== null &&
    prefixes.flatMap((text) => orNull(parsePrefix6(text)) ?? []).some((prefix) => contains6(prefix, address))
  )
}

/** Peers whose outside address their own tunnel is to carry: packets of the tunnel would go into the tunnel. */
export function loopFindings({ id, peers }: Tunnel): Draft[] {
  return peers.flatMap((peer) => {
    // Everything (0.0.0.0/0, ::/0) goes there by policy routes, which the tunnel's own packets do not meet.
    const carried = peer.allowed.filter((prefix) => !prefix.endsWith('/0'))
    return peer.endpoint !== null && isWithin(hostOf(peer.endpoint), carried)
      ? [draft('V22', 'blocker', ['tunnels', id, 'peers', peer.id, 'endpoint'], { peer: peer.name })]
      : []
  })
}

/** Highest port that there is. */
const LAST_PORT = 65_535

/** A tunnel that listens where another of its gateway does already: it does not come up. */
export function portFindings(plan: Plan, tunnel: Tunnel): Draft[] {
  const other = earlierAtPort(plan, tunnel)
  if (!other) return []
  const own = plan.tunnels.filter((one) => one.deviceId === tunnel.deviceId)
  const handed = plan.forwards.filter((one) => one.deviceId === tunnel.deviceId && one.proto === 'udp')
  const isTaken = (port: number) =>
    own.some(({ listenPort }) => listenPort === port) ||
    handed.some(({ from, to }) => from <= port && port <= to)
  let free = tunnel.listenPort
  while (isTaken(free) && free < LAST_PORT) free++
  const place = ['tunnels', tunnel.id, 'listenPort']
  const mend: Mend | null = isTaken(free)
    ? null
    : { code: 'listen-at', values: { port: free }, changes: [set(place, tunnel.listenPort, free)] }
  const values = { tunnel: tunnel.name, other: other.name, port: tunnel.listenPort }
  return [draft('V24', 'blocker', place, values, mend)]
}

/** Prefixes of a tunnel's peers to which a static route or an earlier tunnel of its gateway leads already. */
export function secondWayFindings(plan: Plan, tunnel: Tunnel): Draft[] {
  const own = plan.tunnels.filter((one) => one.deviceId === tunnel.deviceId)
  const first = new Map<string, string>(
    plan.routes
      .filter((route) => route.deviceId === tunnel.deviceId && route.metric === 0)
      .map((route) => [route.prefix, route.via]),
  )
  for (const earlier of own.slice(0, own.indexOf(tunnel)))
    for (const prefix of earlier.peers.flatMap(({ allowed }) => allowed))
      if (!first.has(prefix)) first.set(prefix, earlier.name)
  return tunnel.peers.flatMap((peer) =>
    peer.allowed
      .filter((prefix) => !prefix.endsWith('/0') && first.has(prefix))
      .map((prefix) => {
        const values = { peer: peer.name, prefix, other: first.get(prefix) ?? '', key: prefix }
        return draft('V25', 'warning', ['tunnels', tunnel.id, 'peers', peer.id, 'allowed'], values)
      }),
  )
}

/** A tunnel that carries IPv6 in packets too small for it. */
export function leastMtuFindings(plan: Plan, tunnel: Tunnel): Draft[] {
  const { id, name, mtu, address6, peers } = tunnel
  const carries = address6 !== null || peers.some((p) => p.allowed.some((prefix) => prefix.includes(':')))
  if (!carries || mtu >= LEAST_IPV6) return []
  const place = ['tunnels', id, 'mtu']
  const mend: Mend | null =
    tunnelRoom(plan, tunnel).most >= LEAST_IPV6
      ? { code: 'raise-mtu', values: { mtu: LEAST_IPV6 }, changes: [set(place, mtu, LEAST_IPV6)] }
      : null
  return [draft('V23', 'blocker', place, { tunnel: name, mtu }, mend)]
}
