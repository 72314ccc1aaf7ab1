// Question: can the peers of a tunnel call each other, and find each other again?
// Method: who dials whom, over which uplink, and what stands between.
// Source: wg(8) (endpoints, keepalives); RFC 4787 section 4.3 (how long a translation remembers).
import { canBeCalled, type PlanIndex } from '#core/queries'
import type { Peer, Plan, Tunnel } from '#core/schema'
import { draft, set, type Draft, type Mend } from '../finding'

/** Peers dial in, and an uplink can be called: at an address that changes, or a name that follows it. */
function movingFindings(tunnel: Tunnel, uplink: string, peers: string): Draft[] {
  const { id, name, publicName, nameEveryS, nameTtlS } = tunnel
  if (publicName === null)
    return [draft('V08', 'warning', ['tunnels', id, 'publicName'], { tunnel: name, uplink, peers })]
  // A name that is kept up to date leads nowhere from the change of the address until everybody has heard of
  // it.
  const values = {
    tunnel: name,
    uplink,
    name: publicName,
    most: nameEveryS + nameTtlS,
    every: nameEveryS,
    ttl: nameTtlS,
    peers,
  }
  return [draft('V17', 'note', ['tunnels', id, 'nameEveryS'], values)]
}

export function callFindings(index: PlanIndex, tunnel: Tunnel): Draft[] {
  const diallers = tunnel.peers.filter((p) => p.endpoint === null)
  if (diallers.length === 0) return []
  const uplinks = index.plan.uplinks.filter((u) => u.deviceId === tunnel.deviceId)
  const peers = diallers.map((p) => p.name).join(', ')
  const called = uplinks.find(canBeCalled)
  if (called) return called.kind === 'static' ? [] : movingFindings(tunnel, called.name, peers)
  const hidden = uplinks.find((u) => u.outside === 'own')
  if (!hidden)
    return [draft('V03', 'blocker', ['tunnels', tunnel.id, 'peers'], { tunnel: tunnel.name, peers })]
  const { modemForwards, address } = hidden.facts
  const values = {
    tunnel: tunnel.name,
    uplink: hidden.name,
    port: tunnel.listenPort,
    to: address?.split('/')[0] ?? '',
    known: modemForwards !== null,
    key: tunnel.id,
  }
  const severity = values.known ? 'blocker' : 'warning'
  return [draft('V07', severity, ['uplinks', hidden.id, 'facts', 'modemForwards'], values)]
}

/**
 * As wg(8) advises behind a translation: sooner than any forgets.
 * RFC 4787 section 4.3 has it remember for two minutes at least.
 */
const USUAL_KEEPALIVE_S = 25
const LONGEST_KEEPALIVE_S = 120
/**
 * True where one end sits behind a translation that nobody can call through, and sends nothing that keeps it
 * open: the other end cannot begin.
 */
function isSilent(plan: Plan, tunnel: Tunnel, peer: Peer): boolean {
  if (peer.kind === 'person' || (peer.keepaliveS && peer.keepaliveS <= LONGEST_KEEPALIVE_S)) return false
  return peer.endpoint === null || !plan.uplinks.some((u) => u.deviceId === tunnel.deviceId && canBeCalled(u))
}

export function silenceFindings(plan: Plan, tunnel: Tunnel, peer: Peer): Draft[] {
  if (!isSilent(plan, tunnel, peer)) return []
  const place = ['tunnels', tunnel.id, 'peers', peer.id, 'keepaliveS']
  const mend: Mend = {
    code: 'keep-alive',
    values: { every: USUAL_KEEPALIVE_S },
    changes: [set(place, peer.keepaliveS, USUAL_KEEPALIVE_S)],
  }
  const who = peer.endpoint === null ? ('here' as const) : ('there' as const)
  const values = { peer: peer.name, tunnel: tunnel.name, who, every: peer.keepaliveS ?? 0 }
  return [draft('V20', 'note', place, values, mend)]
}
