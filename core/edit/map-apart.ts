// Question: how are two networks with the same addresses at both ends of a tunnel told apart?
// Method: each is known at the other end by the lowest free private prefix of its length.
// Source: RFC 3022 section 2.1 (static assignment), RFC 1918 (private addresses).
import { formatPrefix4, ipv4, lastOf, overlaps, parsePrefix4, type Prefix4 } from '#core/address'
import { ok, orNull, problem, refuse, type Result } from '#core/util'
import type { Plan, NetworkId, PeerId, TunnelId } from '#core/schema'
import { freshId } from './propose'

/** The lowest private prefix of a length that meets none of some others; null where there is none. */
function freePrefix(length: number, taken: readonly Prefix4[]): Prefix4 | null {
  for (const block of ['10.128.0.0/9', '172.16.0.0/12', '192.168.0.0/16']) {
    const home = orNull(parsePrefix4(block))
    if (!home || home.length > length) continue
    for (let base: number = home.base; base <= lastOf(home); base += 2 ** (32 - length)) {
      const at = { base: ipv4(base), length }
      if (!taken.some((t) => overlaps(t, at))) return at
    }
  }
  return null
}

/**
 * Two networks with the same addresses at both ends of a tunnel are told apart: ours is known there by one
 * free prefix, theirs here by another, and each end translates its own.
 * The far end has to be told both.
 * Problems: no-such-peer; no-clash where the peer has nothing of that network's addresses; no-private-room.
 */
export function mapApart(
  plan: Plan,
  tunnelId: TunnelId,
  peerId: PeerId,
  networkId: NetworkId,
): Result<{ readonly plan: Plan; readonly ours: string; readonly theirs: string }> {
  const tunnel = plan.tunnels.find((t) => t.id === tunnelId)
  const peer = tunnel?.peers.find((p) => p.id === peerId)
  const network = plan.networks.find((n) => n.id === networkId)
  const subnet = network ? orNull(parsePrefix4(network.subnet)) : null
  if (!tunnel || !peer || !network || !subnet)
    return refuse(problem('no-such-peer', peerId, { text: peerId }))
  const clash = peer.allowed.find((allowed) =>
    [orNull(parsePrefix4(allowed))].some((p) => p && p.length > 0 && overlaps(p, subnet)),
  )
  const theirs = clash === undefined ? null : orNull(parsePrefix4(clash))
  if (clash === undefined || !theirs) return refuse(problem('no-clash', peer.name, { text: network.subnet }))
  const taken = [
    ...plan.networks.map((n) => n.subnet),
    ...plan.brief.far.flatMap((f) => [...f.subnets, ...(f.tunnel === null ? [] : [f.tunnel])]),
    ...plan.tunnels.flatMap((tunnel) => [
      tunnel.address.replace(/^(.*)\/.*$/, '$1/24'),
      ...tunnel.mapped.flatMap((m) => [m.inside, m.outside]),
      ...tunnel.peers.flatMap((p) => [...p.allowed, ...p.theirAllowed]),
    ]),
    plan.site.supernet,
  ]
    .flatMap((text) => orNull(parsePrefix4(text)) ?? [])
    .filter((p) => p.length > 0)
  const own = freePrefix(subnet.length, taken)
  const far = own && freePrefix(theirs.length, [...taken, own])
  if (!own || !far) return refuse(problem('no-private-room', network.name))
  const [ours, presented] = [formatPrefix4(own), formatPrefix4(far)]
  const tunnels = plan.tunnels.map((tunnel) =>
    tunnel.id !== tunnelId
      ? tunnel
      : {
          ...tunnel,
          mapped: [
            ...tunnel.mapped,
            { id: freshId(tunnel.mapped, `map-${network.id}`), inside: network.subnet, outside: ours },
          ],
          peers: tunnel.peers.map((peer) =>
            peer.id !== peerId
              ? peer
              : {
                  ...peer,
                  allowed: peer.allowed.map((a) => (a === clash ? presented : a)),
                  theirAllowed: [
                    ...new Set([...peer.theirAllowed.filter((a) => a !== network.subnet), ours]),
                  ],
                },
          ),
        },
  )
  return ok({ plan: { ...plan, tunnels }, ours, theirs: presented })
}
