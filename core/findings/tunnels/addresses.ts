// Question: does every prefix of a tunnel lead to one place?
// Method: allowed prefixes against each other, against our networks, and against translations.
// Source: wg(8) (allowed addresses), RFC 1918.
import {
  formatPrefix4,
  ipv4,
  lastOf,
  overlaps,
  parsePrefix4,
  readPrefixes4,
  readInterface4,
  type Prefix4,
} from '#core/address'
import { changesBetween, mapApart, placeNetwork } from '#core/edit'
import { mapsOf } from '#core/queries'
import type { Network, Peer, Plan, Tunnel, PeerId } from '#core/schema'
import { orNull } from '#core/util'
import { draft, set, type Draft, type Mend } from '../finding'

/**
 * Moves one of our networks to the first subnet of its size that is free here and at every far end; null
 * where there is none.
 */
function renumbering(plan: Plan, network: Network): Mend | null {
  const [block, own] = [orNull(parsePrefix4(plan.site.supernet)), orNull(parsePrefix4(network.subnet))]
  if (!block || !own || own.length < block.length) return null
  const far = [
    ...readPrefixes4(plan.tunnels.flatMap((t) => [...t.peers.flatMap((p) => p.allowed)])),
    ...readPrefixes4(plan.brief.far.flatMap((f) => f.subnets)),
    ...plan.tunnels.flatMap((t) => readInterface4(t.address)?.prefix ?? []),
  ].filter((p) => p.length > 0)
  const size = 2 ** (32 - own.length)
  for (let base: number = block.base; base <= lastOf(block); base += size) {
    const to: Prefix4 = { base: ipv4(base), length: own.length }
    if (far.some((p) => overlaps(p, to))) continue
    const moved = placeNetwork(plan, network.id, to)
    if (moved.ok)
      return {
        code: 'renumber',
        values: { network: network.name, to: formatPrefix4(to) },
        changes: changesBetween(plan, moved.value),
      }
  }
  return null
}

/** Keeps both networks and translates, where ours cannot move; null where there is no free prefix. */
function translation(plan: Plan, tunnel: Tunnel, peerId: PeerId, network: Network): Mend | null {
  const apart = mapApart(plan, tunnel.id, peerId, network.id)
  return apart.ok
    ? {
        code: 'map-apart',
        values: { network: network.name, ours: apart.value.ours, theirs: apart.value.theirs },
        changes: changesBetween(plan, apart.value.plan),
      }
    : null
}

/** Our networks that a peer's prefixes overlap. */
function homeFindings(plan: Plan, tunnel: Tunnel, { id, name, allowed }: Peer): Draft[] {
  const far = readPrefixes4(allowed).filter((prefix) => prefix.length > 0)
  return plan.networks.flatMap((home): Draft[] => {
    const shared = far.filter((prefix) => readPrefixes4([home.subnet]).some((own) => overlaps(own, prefix)))
    if (shared.length === 0) return []
    // A translation sets one prefix apart.
    const apart = shared.length === 1 ? translation(plan, tunnel, id, home) : null
    const values = { peer: name, network: home.name, subnet: home.subnet, key: home.id }
    const place = ['tunnels', tunnel.id, 'peers', id, 'allowed']
    return [draft('V04', 'blocker', place, values, renumbering(plan, home) ?? apart)]
  })
}

/** Prefixes that peers of a tunnel share with each other or with our networks. */
export function overlapFindings(plan: Plan, tunnel: Tunnel): Draft[] {
  const out: Draft[] = []
  const allowed: { readonly prefix: Prefix4; readonly name: string }[] = []
  for (const peer of tunnel.peers) {
    const place = ['tunnels', tunnel.id, 'peers', peer.id, 'allowed']
    for (const prefix of readPrefixes4(peer.allowed).filter((p) => p.length > 0)) {
      const other = allowed.find((a) => a.name !== peer.name && overlaps(a.prefix, prefix))?.name
      if (other !== undefined)
        out.push(draft('V02', 'warning', place, { peer: peer.name, other, key: other }))
      allowed.push({ prefix, name: peer.name })
    }
    out.push(...homeFindings(plan, tunnel, peer))
  }
  return out
}

/** Whose prefix a translation's outside would take; undefined where it is free. */
function ownerOf(plan: Plan, tunnel: Tunnel, outside: Prefix4): string | undefined {
  const owned = [
    ...plan.networks.map((n) => ({ name: n.name, prefix: orNull(parsePrefix4(n.subnet)) })),
    ...tunnel.peers.flatMap((peer) =>
      peer.allowed.map((text) => ({ name: peer.name, prefix: orNull(parsePrefix4(text)) })),
    ),
  ]
  return owned.find(({ prefix }) => prefix !== null && prefix.length > 0 && overlaps(prefix, outside))?.name
}

/** What a translation one to one needs and means. */
export function mappingFindings(plan: Plan, tunnel: Tunnel): Draft[] {
  return tunnel.mapped.map((mapping) => {
    const place = ['tunnels', tunnel.id, 'mapped', mapping.id]
    const [map] = mapsOf({ mapped: [mapping] })
    const values = { tunnel: tunnel.name, inside: mapping.inside, outside: mapping.outside }
    if (!orNull(parsePrefix4(mapping.inside)) || !map)
      return draft('V18', 'blocker', place, { ...values, kind: 'lengths' })
    const other = ownerOf(plan, tunnel, map.outside)
    if (other !== undefined) return draft('V18', 'blocker', place, { ...values, kind: 'taken', other })
    const deaf = tunnel.peers.filter(
      (p) => p.kind === 'site' && !readPrefixes4(p.theirAllowed).some((a) => overlaps(a, map.outside)),
    )
    if (deaf.length === 0) return draft('V18', 'note', place, { ...values, kind: 'means' })
    const peers = deaf.map((p) => p.name).join(', ')
    const mend = allowTranslated(tunnel, mapping, deaf)
    return draft('V18', 'warning', place, { ...values, kind: 'unheard', peers, key: 'unheard' }, mend)
  })
}

/** Sites send what a network is known by, in place of what it has. */
function allowTranslated(
  { id }: Tunnel,
  { inside, outside }: Tunnel['mapped'][number],
  peers: readonly Peer[],
): Mend {
  const changes = peers.map(({ id: peerId, theirAllowed }) => {
    const kept = theirAllowed.filter((prefix) => prefix !== inside)
    return set(['tunnels', id, 'peers', peerId, 'theirAllowed'], theirAllowed, [...kept, outside])
  })
  return { code: 'allow-translated', values: { outside }, changes }
}
