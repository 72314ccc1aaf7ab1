// Question: whose is a public key?
// Method: all keys that a plan's tunnels and peers have, or change to.
// Source: the plan's own semantics; no figures used.
import type { Tunnel } from '#core/schema'

/**
 * Who of a plan's tunnels and peers has a public key, or changes to it: its name.
 * @param own id of whoever does not count
 */
export function keyHolder(tunnels: readonly Tunnel[], own: string, key: string): string | null {
  const holders = tunnels.flatMap((tunnel) => [
    { id: tunnel.id, name: tunnel.name, keys: [tunnel.publicKey] },
    ...tunnel.peers.map((p) => ({ id: p.id, name: p.name, keys: [p.publicKey, p.next?.publicKey ?? null] })),
  ])
  return holders.find((h) => h.id !== own && h.keys.includes(key))?.name ?? null
}
