// Question: by which other address do the peers of a tunnel know one of ours, and which of ours do they mean
// by one of theirs?
// Method: two prefixes of one length, address for address; the first mapping that has an address decides.
// Source:
// RFC 3022 section 2.1 (static assignment); nft(8), `snat ip prefix to`.
import {
  contains,
  formatPrefix4,
  ipv4,
  lastOf,
  overlaps,
  parsePrefix4,
  type Ipv4,
  type Prefix4,
} from '#core/address'
import { ok, orNull, problem, refuse, type Result } from '#core/util'
import type { Tunnel } from './lines'
import type { Plan } from './plan'
import { freshId } from './propose'

export interface AddressMap {
  readonly inside: Prefix4
  readonly outside: Prefix4
}

/** The mappings of a tunnel that are whole: two prefixes of the same length. */
export function mapsOf(tunnel: Pick<Tunnel, 'mapped'>): AddressMap[] {
  return tunnel.mapped.flatMap((mapping) => {
    const [inside, outside] = [orNull(parsePrefix4(mapping.inside)), orNull(parsePrefix4(mapping.outside))]
    return inside && outside && inside.length === outside.length ? [{ inside, outside }] : []
  })
}

/**
 * An address at the same place of another prefix.
 * Worked: 192.168.1.7 of 192.168.1.0/24, in 10.99.1.0/24, is 10.99.1.7.
 */
export const rebase = (address: Ipv4, from: Prefix4, to: Prefix4): Ipv4 =>
  ipv4(to.base + (address - from.base))

/** What peers call an address of ours: itself where no mapping has it. */
export function translateSource(maps: readonly AddressMap[], address: Ipv4): Ipv4 {
  const map = maps.find((m) => contains(m.inside, address))
  return map ? rebase(address, map.inside, map.outside) : address
}

/** Whom of ours peers mean by an address: itself where no mapping has it. */
export function translateDestination(maps: readonly AddressMap[], address: Ipv4): Ipv4 {
  const map = maps.find((m) => contains(m.outside, address))
  return map ? rebase(address, map.outside, map.inside) : address
}

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
 * Problems: no-such-peer; no-clash where the peer has nothing of that network's addresses; no-room.
 */
export function mapApart(
  plan: Plan,
  tunnelId: string,
  peerId: string,
  networkId: string,
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
  if (!own || !far) return refuse(problem('no-room', network.name, { block: 'the private blocks' }))
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
