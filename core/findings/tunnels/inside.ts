// Question: is a tunnel's own subnet, the address of its far end, and the size of its packets its own?
// Method: the subnet against every network, each endpoint against what the tunnel carries, the MTU against the least
// that IPv6 asks.
// Source: RFC 1812 section 2.2.5.2 (one subnet on one link), wg(8) (a route to the endpoint outside the tunnel),
// RFC 8200 section 5 (1,280 bytes).
import { contains, overlaps, parseIpv4, readInterface4, readPrefixes4 } from '#core/address'
import { tunnelRoom } from '#core/queries'
import type { Plan, Tunnel } from '#core/schema'
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

/** Peers whose outside address their own tunnel is to carry: packets of the tunnel would go into the tunnel. */
export function loopFindings({ id, peers }: Tunnel): Draft[] {
  return peers.flatMap((peer) => {
    const host = parseIpv4(peer.endpoint?.split(':')[0] ?? '')
    // Everything (0.0.0.0/0) is sent there by policy routes, not by a route that the tunnel's own packets would meet.
    const holds = (prefix: ReturnType<typeof readPrefixes4>[number]) =>
      host.ok && prefix.length > 0 && contains(prefix, host.value)
    return readPrefixes4(peer.allowed).some(holds)
      ? [draft('V22', 'blocker', ['tunnels', id, 'peers', peer.id, 'endpoint'], { peer: peer.name })]
      : []
  })
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
