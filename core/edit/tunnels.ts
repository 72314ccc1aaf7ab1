// Question: how does a plan grow by a tunnel, and by somebody in it?
// Method: the next address block and port; a peer has the lowest free address.
// Source: wg(8) (allowed IPs); common practice for the numbers.
import {
  contains,
  formatIpv4,
  formatPrefix4,
  ipv4,
  parsePrefix4,
  readInterface4,
  usable,
  type Prefix4,
} from '#core/address'
import { failableThings } from '#core/queries'
import type { Peer, Plan, Tunnel, TunnelId } from '#core/schema'
import { ok, orNull, problem, refuse, type Result } from '#core/util'
import { USUAL_NAME } from './blanks'
import { freshId } from './propose'

/**
 * Where new tunnels have their addresses: the last /16 of 10.0.0.0/8 (RFC 1918), which sites seldom use
 * (common practice).
 */
const tunnelBlock = (n: number): string => `10.255.${n % 256}.1/24`

/** A tunnel on the first gateway, with nobody in it; null where there is no gateway. */
export function addTunnel(plan: Plan): { readonly plan: Plan; readonly id: string } | null {
  const gateway = plan.devices.find((d) => d.kind === 'gateway')
  if (!gateway) return null
  const count = plan.tunnels.length
  const id = freshId(failableThings(plan), 'tunnel')
  const tunnel: Tunnel = {
    id,
    name: `Tunnel ${count + 1}`,
    deviceId: gateway.id,
    publicName: null,
    ...USUAL_NAME,
    address: tunnelBlock(count),
    address6: null,
    listenPort: 51_820 + count,
    mtu: 1420,
    publicKey: null,
    mapped: [],
    peers: [],
  }
  return { plan: { ...plan, tunnels: [...plan.tunnels, tunnel] }, id }
}

/**
 * What somebody's own file usually sends into a tunnel: the tunnel itself and the networks behind its gateway.
 * Rules decide what of that passes.
 */
const usuallyAllowed = (plan: Plan, tunnel: Tunnel, inside: Prefix4): string[] => [
  formatPrefix4(inside),
  ...plan.networks.filter(({ routerId }) => routerId === tunnel.deviceId).map(({ subnet }) => subnet),
]

/**
 * A person's peer with the lowest free address of the tunnel.
 * Errors: no-room, where every address is given.
 */
export function addPeer(
  plan: Plan,
  tunnelId: TunnelId,
): Result<{ readonly plan: Plan; readonly id: string }> {
  const tunnel = plan.tunnels.find((t) => t.id === tunnelId)
  const inside = tunnel ? readInterface4(tunnel.address) : null
  if (!tunnel || !inside) return refuse(problem('no-room', '', { block: tunnel?.address ?? '' }))
  const own = inside.address
  const hosts = usable(inside.prefix)
  const taken = tunnel.peers.flatMap((p) => p.allowed).flatMap((text) => orNull(parsePrefix4(text)) ?? [])
  let free = hosts.from
  while (free <= hosts.to && (free === own || taken.some((p) => p.length > 0 && contains(p, free))))
    free = ipv4(free + 1)
  if (free > hosts.to) return refuse(problem('no-room', '', { block: tunnel.address }))
  const id = freshId(failableThings(plan), 'peer')
  const peer: Peer = {
    id,
    name: `Peer ${tunnel.peers.length + 1}`,
    kind: 'person',
    publicKey: null,
    next: null,
    allowed: [`${formatIpv4(free)}/32`],
    theirAllowed: usuallyAllowed(plan, tunnel, inside.prefix),
    endpoint: null,
    downMbps: null,
    upMbps: null,
    keepaliveS: null,
  }
  return ok({
    plan: {
      ...plan,
      tunnels: plan.tunnels.map((t) => (t.id === tunnelId ? { ...t, peers: [...t.peers, peer] } : t)),
    },
    id,
  })
}
