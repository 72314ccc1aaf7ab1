// Question: how does a site meet the outside?
// Its lines, what is known of them, and what goes out and in by them.
// Method: plain data, as the rest of a plan; addresses stay text.
// Source: terms of RFC 2516 (PPPoE), RFC 3022 (port forwards) and wg(8) (peers, allowed addresses).

export interface Uplink {
  readonly id: string
  readonly name: string
  readonly deviceId: string
  readonly portId: string
  readonly kind: 'pppoe' | 'dhcp' | 'static'
  /** VLAN tag the provider asks for; null for none. */
  readonly tag: number | null
  /** 1 is used first. Lines of the same number share what goes out, by weight, when it is their turn. */
  readonly priority: number
  /** 1 to 1,000: how much of it this line takes, beside the others of its number. */
  readonly weight: number
  /** What the outside sees: an address of our own, or one shared by the provider (nobody can dial in). */
  readonly outside: 'own' | 'shared'
  readonly downMbps: number
  readonly upMbps: number
  /** How the gateway finds out that the line is dead; null where it only sees its own cable. */
  readonly probe: Probe | null
  /** `hot`: connected all the time. `cold`: dialled when it is needed, which takes `bringUpS`. */
  readonly standby: 'hot' | 'cold'
  readonly bringUpS: number
  /** How long the line must have been well before traffic returns to it, s. */
  readonly holdDownS: number
  /**
   * What it leans on, in words: a duct, a pole, a power feed, a provider.
   * Lines that share one fail together.
   */
  readonly fates: readonly string[]
  /** Share of probes that get lost on the line when it is well, %. */
  readonly lossPct: number
  /** Share of the year for which the line works, %; null where nobody has said. */
  readonly availablePct: number | null
  /** Data that the site moves over it in a usual day, GB; null where nobody has said. */
  readonly usualGbPerDay: number | null
  readonly facts: UplinkFacts
}

/** What is asked over a line, how often, and how many silent answers in a row count. */
export interface Probe {
  readonly kind: 'icmp' | 'dns' | 'http'
  readonly targets: readonly string[]
  /** So many targets must be silent for a round to count as missed. */
  readonly quorum: number
  readonly everyS: number
  readonly timeoutS: number
  /**
   * Missed rounds in a row after which the line is taken for dead, and good ones after which it is taken for
   * well.
   */
  readonly misses: number
  readonly returns: number
}

/** What has to be known of a provider's line before it is touched. Null: nobody has found out. */
export interface UplinkFacts {
  /** Where user name and password are kept; never the secret itself. */
  readonly credentialsAt: string | null
  /** True where it is certain that `tag` is right, also where there is none. */
  readonly tagKnown: boolean
  /** 802.1p priority of the tag, 0 to 7. */
  readonly pcp: number | null
  readonly macLock: 'yes' | 'no' | null
  readonly lockedMac: string | null
  readonly linkSpeed: 'auto' | '100' | '1000' | '2500' | '10000' | null
  /** Data a month, GB; 0 for no cap. */
  readonly capGb: number | null
  /** True where it is certain what the outside sees. */
  readonly outsideKnown: boolean
  /** Address and length on the gateway's side of the line: given by contract, or seen. */
  readonly address: string | null
  readonly gateway: string | null
  readonly dns: readonly string[]
  readonly modem: 'bridge' | 'routing' | 'none' | null
  /** What a cellular line needs and hears; null for a line that is none. */
  readonly cellular: Cellular | null
  /** True where a port that its maker ships switched off or unlicensed has been enabled. */
  readonly portEnabled: boolean
  /** True where a routing modem hands everything that arrives on to the gateway. */
  readonly modemForwards: boolean
  /** IPv6 prefix that the provider delegates to the site over this line; null for none. */
  readonly delegated6: string | null
}

/** Null: nobody has found out. Its PIN and password are kept where `credentialsAt` says. */
export interface Cellular {
  /** Number printed on the SIM (ITU-T E.118). */
  readonly sim: string | null
  /** Access point name (3GPP TS 23.003 section 9). */
  readonly apn: string | null
  /** How many antennas, and in words where they are and how far their feeders run. */
  readonly antennas: number | null
  readonly antennasAt: string | null
  /**
   * Received power of the reference signal, dBm, and its distance to noise and others, dB (3GPP TS 36.214),
   * measured where the antennas will be.
   */
  readonly rsrpDbm: number | null
  readonly sinrDb: number | null
  /** A month with what `capGb` allows, and each GB beyond it, in the site's currency. */
  readonly pricePerMonth: number | null
  readonly pricePerGb: number | null
}

export interface StaticRoute {
  readonly id: string
  readonly deviceId: string
  readonly prefix: string
  readonly via: string
  /** Of routes to the same prefix the lowest is used. */
  readonly metric: number
}

/** What arrives on a line at these ports is handed to one address inside. */
export interface PortForward {
  readonly id: string
  readonly deviceId: string
  readonly uplinkId: string
  readonly proto: 'tcp' | 'udp'
  readonly from: number
  readonly to: number
  readonly toAddress: string
  /** Port there that `from` becomes; the others follow. */
  readonly toPort: number
  /** Whoever calls the line's address from inside is handed the same. */
  readonly hairpin: boolean
  readonly note: string
}

/** A WireGuard interface of a gateway and who may speak on it. */
export interface Tunnel {
  readonly id: string
  readonly name: string
  readonly deviceId: string
  /** Name under which peers find it (kept up to date by dynamic DNS); null where they dial an address. */
  readonly publicName: string | null
  /**
   * How often whoever keeps that name looks whether the address has changed, and how long others remember its
   * answer (RFC 2136, RFC 1035 section 3.2.1), s.
   */
  readonly nameEveryS: number
  readonly nameTtlS: number
  /** Address in the tunnel and the length of its subnet: `10.61.20.1/29`. */
  readonly address: string
  /** The same of IPv6: `fd61:6a11:20::1/64`; null where the tunnel carries none. */
  readonly address6: string | null
  readonly listenPort: number
  readonly mtu: number
  /** Public key, 44 characters of base64; null while there is none. Private keys are never in a plan. */
  readonly publicKey: string | null
  /**
   * Networks of ours that peers know by another prefix of the same length, address for address (RFC 3022
   * section 2.1).
   */
  readonly mapped: readonly Mapping[]
  readonly peers: readonly Peer[]
}

export interface Mapping {
  readonly id: string
  readonly inside: string
  readonly outside: string
}

export interface Peer {
  readonly id: string
  readonly name: string
  /** Another site, one person on the road, or a provider through which the internet is reached. */
  readonly kind: 'site' | 'person' | 'provider'
  readonly publicKey: string | null
  /**
   * A new key that is let in beside the old one until a day, `2026-12-09`, while the peer changes over; null
   * while it has one key.
   */
  readonly next: { readonly publicKey: string; readonly until: string } | null
  /** Addresses that belong to the peer: taken from it and sent to it. */
  readonly allowed: readonly string[]
  /** Addresses of ours that the peer's own configuration allows: what it sends here, and takes from here. */
  readonly theirAllowed: readonly string[]
  /** Host and port that this gateway dials; null where the peer dials us. */
  readonly endpoint: string | null
  /** Its own line, Mb/s; null where nobody knows. */
  readonly downMbps: number | null
  readonly upMbps: number | null
  /** Seconds between packets that keep a translation open on the way; null for none. */
  readonly keepaliveS: number | null
}

/**
 * What one end of an IPsec connection accepts, of each kind of transform, by the names of IANA's registry;
 * groups by number.
 */
export interface IpsecSuite {
  readonly encryption: readonly string[]
  readonly integrity: readonly string[]
  /** For the key exchange alone; empty for what carries data. */
  readonly prf: readonly string[]
  /** Key exchange groups; empty for what carries data: no fresh exchange for it. */
  readonly groups: readonly number[]
}
export interface IpsecEnd {
  /** What it calls itself. */
  readonly identity: string
  /** Where it is found; empty where nobody can call it. */
  readonly address: string
  readonly subnets: readonly string[]
  readonly ike: IpsecSuite
  readonly esp: IpsecSuite
  /** After so many seconds keys are made anew. */
  readonly ikeLifeS: number
  readonly espLifeS: number
  /** Seconds of silence after which the other end is asked whether it lives; null for never. */
  readonly dpdS: number | null
  readonly auth: 'psk' | 'certificate'
  /** Opens the connection by itself. */
  readonly starts: boolean
}
/** An IPsec connection (IKEv2) as a sheet for both ends; Able Mast runs none. */
export interface IpsecLink {
  readonly id: string
  readonly name: string
  readonly deviceId: string
  readonly ours: IpsecEnd
  readonly theirs: IpsecEnd
}

/**
 * Written into a plan, a public key is 32 bytes in base64 (RFC 4648): 43 characters, of which the last
 * carries four bits, and one of filling.
 */
export const isPublicKey = (text: string): boolean => /^[A-Za-z0-9+/]{42}[AEIMQUYcgkosw048]=$/.test(text)

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

/** A host, or an IPv6 address in brackets, and a port: `vpn.site.example:51820`. */
export const isEndpoint = (text: string): boolean =>
  /^(\[[0-9a-fA-F:]+\]|[A-Za-z0-9.-]{1,253}):\d{1,5}$/.test(text) && Number(text.split(':').at(-1)) <= 65_535
