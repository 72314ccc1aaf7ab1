import type { Disagreement } from '#core/ipsec'
import type { StopCode } from '#core/reachability'

/** What the findings of tunnels and of IPsec connections say, by code. */
export interface TunnelValues {
  /** Two peers have one key. */
  V01: { peer: string; other: string; key: 'its' | 'old' | 'next' }
  /** Two peers may use the same addresses. */
  V02: { peer: string; other: string; key: string }
  /** Peers dial in, and nobody can be dialled. */
  V03: { tunnel: string; peers: string }
  /** A peer's addresses are also ours. */
  V04: { peer: string; network: string; subnet: string; key: string }
  /** Nothing passes to or from a peer; where its flows end. */
  V05: { peer: string; tunnel: string; stops: readonly (StopCode | 'rule')[] }
  /** A tunnel's own address is a public one. */
  V06: { tunnel: string; address: string }
  /** A modem has to forward a tunnel's port. */
  V07: { tunnel: string; uplink: string; port: number; to: string; known: boolean; key: string }
  /** Peers dial an address that changes. */
  V08: { tunnel: string; uplink: string; peers: string }
  /** Packets of a tunnel do not fit their path; bytes. */
  V09: { tunnel: string; mtu: number; most: number; path: number; adds: number; ipv6: boolean }
  /** Who sets the speed of a tunnel; Mb/s. */
  V10: { peer: string; out: number; back: number; outBy: string; backBy: string }
  /** Who goes out by a tunnel; `rest`: their other services do not. */
  V11: { tunnel: string; who: string; services: string; rest: boolean }
  /** Names are looked up beside a tunnel. */
  V12: { tunnel: string; who: string }
  /** IPv6 goes beside a tunnel. */
  V14: { tunnel: string; who: string }
  /** The ends of an IPsec connection do not fit. */
  V15: {
    name: string
    kind: Disagreement['kind']
    what: string
    use: 'ike' | 'esp' | ''
    ours: string
    theirs: string
    key: string
  }
  /** Algorithms of an IPsec connection that are not advised, or not known. */
  V16: { name: string; kind: AlgorithmTrouble; names: string; key: AlgorithmTrouble }
  /** How long a name that follows the address leads nowhere; seconds. */
  V17: {
    tunnel: string
    uplink: string
    name: string
    most: number
    every: number
    ttl: number
    peers: string
  }
  /** A translation one to one. */
  V18:
    | { tunnel: string; inside: string; outside: string; kind: 'lengths' | 'means' }
    | { tunnel: string; inside: string; outside: string; kind: 'taken'; other: string }
    | { tunnel: string; inside: string; outside: string; kind: 'unheard'; peers: string; key: string }
  /** A peer changes its key. */
  V19: { peer: string; until: string }
  /** An end behind a translation sends nothing that keeps it open; `every`: seconds, 0 for never. */
  V20: { peer: string; tunnel: string; who: 'here' | 'there'; every: number }
  /** A network has addresses of a tunnel's own subnet. */
  V21: { tunnel: string; address: string; network: string; subnet: string; key: string }
  /** A tunnel is to carry the outside address of its own far end. */
  V22: { peer: string }
  /** IPv6 in a tunnel whose packets are too small for it; bytes. */
  V23: { tunnel: string; mtu: number }
  /** Two tunnels of one gateway at one port. */
  V24: { tunnel: string; other: string; port: number }
  /** Something else leads to a peer's prefix already: a tunnel by its name, or a next hop. */
  V25: { peer: string; prefix: string; other: string; key: string }
  /** Some are to take the next line while a tunnel is silent, which nobody notices. */
  V26: { tunnel: string; who: string }
}

export type AlgorithmTrouble = 'must-not' | 'should-not' | 'unknown'

export interface TunnelMends {
  renumber: { network: string; to: string }
  'map-apart': { network: string; ours: string; theirs: string }
  'keep-alive': { every: number }
  'lower-mtu': { mtu: number }
  'raise-mtu': { mtu: number }
  'listen-at': { port: number }
  'allow-translated': { outside: string }
  'refuse-else': Record<never, never>
}
