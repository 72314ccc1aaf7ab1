// Question: will the tunnels carry?
// Method: tunnels by keys, addresses, who can be dialled, and what the reach matrix lets out of them.
// Source: wg(8) (allowed addresses, keys), RFC 1918.
import { readInterface4, spaceOf } from '#core/address'
import { isNothing } from '#core/filter'
import { tunnelRoom, uplinksInOrder, type PlanIndex } from '#core/queries'
import type { Peer, Plan, Tunnel } from '#core/schema'
import { GATEWAY, INTERNET, openSite, peerKey, walkFlow, type ReachabilityMatrix } from '#core/reachability'
import { byText } from '#core/util'
import type { TunnelValues } from './values'
import { draft, onSheet, set, type Draft, type Finding, type Mend } from '../finding'
import { mappingFindings, overlapFindings } from './addresses'
import { callFindings, silenceFindings } from './calls'
import { leastMtuFindings, loopFindings, portFindings, secondWayFindings, subnetFindings } from './inside'
import { ipsecFindings } from './ipsec'
import { policyRouteFindings } from './policy-routes'

type KeyOwner = Pick<TunnelValues['V01'], 'other' | 'key'>

/** One key belongs to one peer, also while it changes. */
function keyFindings(tunnel: Tunnel): Draft[] {
  const out: Draft[] = []
  const owners = new Map<string, KeyOwner>(
    tunnel.publicKey === null ? [] : [[tunnel.publicKey, { other: tunnel.name, key: 'its' }]],
  )
  for (const { id, name, publicKey, next } of tunnel.peers) {
    const place = ['tunnels', tunnel.id, 'peers', id]
    const owner = publicKey === null ? undefined : owners.get(publicKey)
    if (owner) out.push(draft('V01', 'blocker', [...place, 'publicKey'], { peer: name, ...owner }))
    if (publicKey !== null) owners.set(publicKey, { other: name, key: 'its' })
    if (!next) continue
    const taken = owners.get(next.publicKey)
    if (taken) {
      const old: KeyOwner = taken.other === name ? { other: name, key: 'old' } : taken
      out.push(draft('V01', 'blocker', [...place, 'next'], { peer: name, ...old }))
    }
    owners.set(next.publicKey, { other: name, key: 'next' })
    out.push(draft('V19', 'note', [...place, 'next'], { peer: name, until: next.until }))
  }
  return out
}

/** The narrower of the two uplinks at the ends of a tunnel, each way, where both are known. */
function speedFindings(plan: Plan, tunnel: Tunnel, peer: Peer): Draft[] {
  const uplink = uplinksInOrder(plan).find((u) => u.deviceId === tunnel.deviceId)
  if (!uplink || peer.downMbps === null || peer.upMbps === null) return []
  const values = {
    peer: peer.name,
    out: Math.min(uplink.upMbps, peer.downMbps),
    back: Math.min(uplink.downMbps, peer.upMbps),
    outBy: uplink.upMbps <= peer.downMbps ? uplink.name : peer.name,
    backBy: uplink.downMbps <= peer.upMbps ? uplink.name : peer.name,
  }
  return [draft('V10', 'note', ['tunnels', tunnel.id, 'peers', peer.id, 'downMbps'], values)]
}

/** Where flows of some cells would end if no rule stopped them; `rule` where any would pass. */
function stopsOf(index: PlanIndex, cells: ReachabilityMatrix['cells']): TunnelValues['V05']['stops'] {
  const open = (policy: Plan['policies'][number]) =>
    ({ ...policy, forward: 'accept', input: 'accept', rules: [] }) as const
  const site = openSite(index.of({ ...index.plan, policies: index.plan.policies.map(open) }), [])
  const ends = cells.map(({ example }) => example && walkFlow(site, example)?.lines.at(-1))
  if (ends.some((end) => end?.kind === 'delivered')) return ['rule']
  return [...new Set(ends.flatMap((end) => (end?.kind === 'stopped' ? [end.code] : [])))].sort(byText)
}

/** A peer that nothing passes to or from, but what the gateway and the internet have. */
function idleFindings(index: PlanIndex, tunnel: Tunnel, peer: Peer, matrix: ReachabilityMatrix): Draft[] {
  if (peer.kind === 'provider') return []
  // Of networks that nobody is in nothing can be said yet.
  const own = matrix.cells.filter(({ from, to, isEmpty }) => {
    const ends = [from, to]
    return !isEmpty && ends.includes(peerKey(peer.id)) && !ends.includes(GATEWAY) && !ends.includes(INTERNET)
  })
  const idle = own.length > 0 && own.every((c) => isNothing(c.allPairs) && isNothing(c.somePairs))
  if (!idle) return []
  const values = { peer: peer.name, tunnel: tunnel.name, stops: stopsOf(index, own) }
  return [draft('V05', 'warning', ['tunnels', tunnel.id, 'peers', peer.id], values)]
}

function addressFindings({ id, name, address }: Tunnel): Draft[] {
  const inside = readInterface4(address)
  if (!inside || spaceOf(inside.address) !== 'public') return []
  return [draft('V06', 'warning', ['tunnels', id, 'address'], { tunnel: name, address })]
}

function mtuFindings(plan: Plan, tunnel: Tunnel): Draft[] {
  const { most, path, adds, ipv6 } = tunnelRoom(plan, tunnel)
  if (tunnel.mtu <= most) return []
  const place = ['tunnels', tunnel.id, 'mtu']
  const mend: Mend = { code: 'lower-mtu', values: { mtu: most }, changes: [set(place, tunnel.mtu, most)] }
  return [
    draft('V09', 'warning', place, { tunnel: tunnel.name, mtu: tunnel.mtu, most, path, adds, ipv6 }, mend),
  ]
}

function tunnelFindings(index: PlanIndex, tunnel: Tunnel, matrix: ReachabilityMatrix): Draft[] {
  const { plan } = index
  return [
    ...keyFindings(tunnel),
    ...overlapFindings(plan, tunnel),
    ...tunnel.peers.flatMap((peer) => [
      ...silenceFindings(plan, tunnel, peer),
      ...speedFindings(plan, tunnel, peer),
      ...idleFindings(index, tunnel, peer, matrix),
    ]),
    ...mappingFindings(plan, tunnel),
    ...addressFindings(tunnel),
    ...mtuFindings(plan, tunnel),
    ...subnetFindings(plan, tunnel),
    ...loopFindings(tunnel),
    ...leastMtuFindings(plan, tunnel),
    ...portFindings(plan, tunnel),
    ...secondWayFindings(plan, tunnel),
  ]
}

/**
 * Findings of tunnels and IPsec connections.
 * @param six the matrix of IPv6; null where nobody speaks it
 */
export const checkTunnels = (
  index: PlanIndex,
  matrix: ReachabilityMatrix,
  ipv6: ReachabilityMatrix | null,
): Finding[] =>
  onSheet('tunnels', [
    ...index.plan.tunnels.flatMap((tunnel) => [
      ...callFindings(index, tunnel),
      ...tunnelFindings(index, tunnel, matrix),
    ]),
    ...index.plan.ipsec.flatMap(ipsecFindings),
    ...policyRouteFindings(index, ipv6),
  ])
