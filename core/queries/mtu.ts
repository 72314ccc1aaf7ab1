// Question: how large may a packet in a tunnel be, so that no line has to cut it up?
// Method: what the narrowest line of the gateway carries, less what WireGuard puts around a packet.
// Source: 32 bytes of WireGuard's transport message (16 of header, 16 of tag, its message format) and 8 of
// UDP (RFC 768) within 20 of IPv4 (RFC 791) or 40 of IPv6 (RFC 8200); 1,500 bytes of Ethernet, 8 less by
// PPPoE (RFC 2516 section 7).
import type { Tunnel, Uplink, Plan } from '#core/schema'

const OVER_IPV4 = 60
const OVER_IPV6 = 80

/** What one packet on a line may hold, bytes. */
export const uplinkMtu = (uplink: Pick<Uplink, 'kind'>): number => (uplink.kind === 'pppoe' ? 1492 : 1500)

export interface TunnelRoom {
  /** Largest MTU of the tunnel, bytes: what the lines carry, less what the tunnel adds. */
  readonly most: number
  readonly path: number
  readonly adds: number
  /** True where some peer calls, or is called, by IPv6. */
  readonly ipv6: boolean
}

/**
 * Room in a tunnel.
 * A peer is called by IPv6 where its address is one; whoever dials a name may come by IPv6 as soon as a
 * provider delegates a prefix.
 * Worked: over PPPoE and IPv4 1492 - 60 = 1432; by IPv6 1492 - 80 = 1412.
 */
export function tunnelRoom(plan: Pick<Plan, 'uplinks'>, tunnel: Tunnel): TunnelRoom {
  const uplinks = plan.uplinks.filter((u) => u.deviceId === tunnel.deviceId)
  const path = Math.min(1500, ...uplinks.map(uplinkMtu))
  const ipv6 = tunnel.peers.some((peer) =>
    peer.endpoint === null
      ? tunnel.publicName !== null && uplinks.some((u) => u.facts.delegated6 !== null)
      : peer.endpoint.startsWith('['),
  )
  const adds = ipv6 ? OVER_IPV6 : OVER_IPV4
  return { most: path - adds, path, adds, ipv6 }
}
