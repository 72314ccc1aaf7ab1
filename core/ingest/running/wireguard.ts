// Tunnels and peers that WireGuard runs, compared with the plan.
// Source: wg(8) `show … dump`.
import { wgName } from '#core/export'
import type { Peer, Plan, Tunnel, DeviceId } from '#core/schema'
import { drift, flat, type Drift, type Running } from './drift'

/** Of a peer that changes its key, what both of its entries have together. */
interface PeerSeen {
  readonly allowed: readonly string[]
  readonly heard: boolean
}

/** The tunnel that an interface's line speaks of. */
function tunnelOf(tunnels: readonly Tunnel[], name: string | null, publicKey: string): Tunnel | undefined {
  if (name !== null) return tunnels.find((_, i) => wgName(i + 1) === name)
  return tunnels.find((t) => t.publicKey === publicKey) ?? tunnels[0]
}

function interfaceDrifts({ name, publicKey, listenPort }: Tunnel, key: string, port: string): Drift[] {
  return [
    ...(publicKey !== null && publicKey !== key ? [drift('key-differs', name, publicKey, key)] : []),
    ...(String(listenPort) === port ? [] : [drift('port-differs', name, String(listenPort), port)]),
  ]
}

/** What two entries of one peer have together. */
const together = (before: PeerSeen | undefined, allowed: string, handshake: string): PeerSeen => ({
  allowed: [...(before?.allowed ?? []), ...(allowed === '(none)' ? [] : allowed.split(','))],
  heard: (before?.heard ?? false) || handshake !== '0',
})

function peerDrifts(peer: Peer, seen: PeerSeen | undefined): Drift[] {
  if (!seen) return [drift('peer-missing', peer.name, peer.publicKey ?? '')]
  const [planned, running] = [flat(peer.allowed), flat(seen.allowed)]
  return [
    ...(planned === running ? [] : [drift('allowed-differs', peer.name, planned, running)]),
    ...(seen.heard ? [] : [drift('never-heard', peer.name)]),
  ]
}

/** True where each line begins with the interface, as of `wg show all dump`. */
const isNamed = (lines: readonly (readonly string[])[]): boolean =>
  lines.some((line) => line.length === 5 || line.length === 9)

interface Dump {
  /** Peers by tunnel and id. */
  readonly seen: ReadonlyMap<Tunnel, ReadonlyMap<string, PeerSeen>>
  readonly drifts: readonly Drift[]
}

/** The peer that has a key, or changes to it. */
const peerWith = ({ peers }: Tunnel, key: string): Peer | undefined =>
  peers.find((p) => p.publicKey === key || p.next?.publicKey === key)

/** True for an interface's line, which is shorter than a peer's. */
const isInterface = (line: readonly string[]): boolean => line.length < 5

/** A peer's line, written down with the tunnel it stands under. */
function readPeer(
  tunnel: Tunnel | undefined,
  seen: Map<Tunnel, Map<string, PeerSeen>>,
  line: readonly string[],
) {
  const [key = '', , , allowed = '', handshake = '0'] = line
  const peer = tunnel && peerWith(tunnel, key)
  const peers = tunnel && seen.get(tunnel)
  if (!peer || !peers) return [drift('peer-unknown', tunnel?.name ?? '', '', key)]
  peers.set(peer.id, together(peers.get(peer.id), allowed, handshake))
  return []
}

function readDump(tunnels: readonly Tunnel[], lines: readonly (readonly string[])[]): Dump {
  const named = isNamed(lines)
  const drifts: Drift[] = []
  const seen = new Map<Tunnel, Map<string, PeerSeen>>()
  let now: Tunnel | undefined
  for (const all of lines) {
    const line = named ? all.slice(1) : all
    if (!isInterface(line)) {
      drifts.push(...readPeer(now, seen, line))
      continue
    }
    const [, publicKey = '', listenPort = ''] = line
    now = tunnelOf(tunnels, named ? (all[0] ?? '') : null, publicKey)
    if (!now) continue
    seen.set(now, new Map())
    drifts.push(...interfaceDrifts(now, publicKey, listenPort))
  }
  return { seen, drifts }
}

/**
 * Columns of `wg show NAME dump`; with `all`, each line begins with the interface.
 * The private key, the first of an interface's line, is not read.
 */
export function compareWireguard(
  plan: Plan,
  deviceId: DeviceId,
  lines: readonly (readonly string[])[],
): Running {
  const tunnels = plan.tunnels.filter((t) => t.deviceId === deviceId)
  const { seen, drifts } = readDump(tunnels, lines)
  const missing = tunnels.flatMap((tunnel) => {
    const peers = seen.get(tunnel)
    if (!peers) return [drift('not-there', tunnel.name)]
    return tunnel.peers.flatMap((peer) => peerDrifts(peer, peers.get(peer.id)))
  })
  return { kind: 'wireguard', entries: lines.length, drifts: [...drifts, ...missing] }
}
