// Question: what is a plan? One readonly document that says how a site is meant to be built.
// Method: plain data with ids; addresses stay text as people typed them, canonical after parsing.
// Source: terms of IEEE 802.1Q (VLAN, native, tagged) and RFC 2131 (DHCP).

import type { DeviceKind, Model } from './product'

export const PLAN_FORMAT = 'able-mast-plan'
/** Raised when an older reader would misunderstand the document. */
export const PLAN_VERSION = 3

/** Whether tagged frames may use a port, and as what untagged frames count. `plain`: the device does no VLANs. */
export type PortMode =
  | { readonly mode: 'access'; readonly vlan: number }
  | { readonly mode: 'trunk'; readonly native: number | null; readonly tagged: readonly number[] | 'all' }
  /** An address of its own and no bridge: `10.61.255.1/30`. */
  | { readonly mode: 'routed'; readonly address: string }
  | { readonly mode: 'radio' }
  | { readonly mode: 'wan' }
  | { readonly mode: 'plain' }
  | { readonly mode: 'off' }

export interface Port {
  readonly id: string
  readonly name: string
  readonly mode: PortMode
  /** Speed forced on the port, Mb/s; null where it is negotiated. */
  readonly speedMbps: number | null
  /** Transceiver in the port; null for none. */
  readonly optic: OpticName | null
  /** `off`: gives no power even where it could. */
  readonly poe: 'auto' | 'off'
}

export type OpticName = '1000BASE-SX' | '1000BASE-LX10' | '10GBASE-SR' | '10GBASE-LR'

export interface Device {
  readonly id: string
  readonly name: string
  readonly kind: DeviceKind
  /** Name in the catalogue; empty for what the site merely attaches. */
  readonly model: string
  readonly place: string
  /** Network its own address, or its hosts, belong to; null where it has none. */
  readonly wants: string | null
  /** How many alike endpoints a `hosts` device stands for; 1 otherwise. */
  readonly count: number
  /** Has a supply of its own plugged in, so that it asks its cable for no power. */
  readonly mains: boolean
  /** Bridge priority of the spanning tree, 0 to 61440 in steps of 4096; null for the usual 32768. */
  readonly stpPriority: number | null
  readonly ports: readonly Port[]
}

export interface PortRef {
  readonly deviceId: string
  readonly portId: string
}

export type CopperCategory = 'Cat5e' | 'Cat6' | 'Cat6A'
export type FibreGrade = 'OM3' | 'OM4' | 'OS2'
/** Where a cable lies; `between`: from one building to another. */
export type CableRun = 'indoor' | 'outdoor' | 'between'

export type Medium =
  | { readonly kind: 'copper'; readonly category: CopperCategory; readonly lengthM: number; readonly run: CableRun }
  | { readonly kind: 'fibre'; readonly grade: FibreGrade; readonly lengthM: number; readonly run: CableRun }
  | { readonly kind: 'radio'; readonly lengthM: number }
  | { readonly kind: 'wifi'; readonly ssidId: string }
  | { readonly kind: 'line' }

export interface Link {
  readonly id: string
  readonly a: PortRef
  readonly b: PortRef
  readonly medium: Medium
  /** Name of the bundle (LAG) it is a member of; null for a cable by itself. */
  readonly lag: string | null
}

/** An address given to one thing for good: typed into it (static) or handed to it by DHCP (reserved). */
export interface Fixed {
  readonly id: string
  readonly ip: string
  readonly name: string
  readonly deviceId: string | null
  readonly how: 'static' | 'reserved'
  /** Prefix length typed into the device; null means the network's own. Only meaningful for static. */
  readonly mask: number | null
  /** Gateway typed into the device; null means the network's own. Only meaningful for static. */
  readonly gateway: string | null
  /** Hardware address a reservation is kept for; null where it is not known, or is its equipment's. */
  readonly mac: string | null
}

/** An address range, both ends included. */
export interface TextRange {
  readonly from: string
  readonly to: string
}

/** What DHCP tells clients beyond their address. Lists are addresses; an empty list means the gateway itself for DNS, nothing for NTP. */
export interface DhcpOptions {
  readonly dns: readonly string[]
  readonly ntp: readonly string[]
  readonly domain: string
  /** Controller that devices are told of, and by which option; null for none. */
  readonly controller: { readonly option: 43 | 138 | 143; readonly address: string } | null
}

export interface Network {
  readonly id: string
  readonly vlan: number
  readonly name: string
  /** IPv4 prefix as text, host bits zero. */
  readonly subnet: string
  readonly gateway: string
  /** The gateway device whose interface carries `gateway`. */
  readonly routerId: string
  /** `relay`: requests are passed on to the server at `relayTo`. */
  readonly dhcp: 'serve' | 'relay' | 'none'
  readonly relayTo: string | null
  readonly pool: TextRange | null
  /** Parts of the pool that are not handed out. */
  readonly exclusions: readonly TextRange[]
  /** Lease time, s. */
  readonly leaseS: number
  readonly options: DhcpOptions
  /** Clients expected at once. */
  readonly expected: number
  /** How many more are expected later, %. */
  readonly growthPct: number
  /** New clients in a busy hour and how long they stay, h; null where nobody has said. */
  readonly arrivalsPerH: number | null
  readonly stayH: number | null
  /** Chosen by hand: no proposal moves it. */
  readonly pinned: boolean
  /** IPv6 prefix, usually a /64; null for none. */
  readonly prefix6: string | null
  /** How hosts get IPv6 addresses: SLAAC alone, SLAAC with DHCPv6 for the rest, DHCPv6, or not at all. */
  readonly mode6: 'off' | 'slaac' | 'stateless' | 'stateful'
  readonly fixed: readonly Fixed[]
}

export interface Ssid {
  readonly id: string
  readonly name: string
  readonly networkId: string
  /** Client isolation: stations of this SSID cannot talk to each other. */
  readonly isolation: boolean
  readonly apIds: readonly string[]
}

export interface Uplink {
  readonly id: string
  readonly name: string
  readonly deviceId: string
  readonly portId: string
  readonly kind: 'pppoe' | 'dhcp' | 'static'
  /** VLAN tag the provider asks for; null for none. */
  readonly tag: number | null
  /** 1 is used first. */
  readonly priority: number
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
  /** What it leans on, in words: a duct, a pole, a power feed, a provider. Lines that share one fail together. */
  readonly fates: readonly string[]
  /** Share of probes that get lost on the line when it is well, %. */
  readonly lossPct: number
  /** Share of the year for which the line works, %; null where nobody has said. */
  readonly availablePct: number | null
  /** Data that the site moves over it in a usual day, GB; null where nobody has said. */
  readonly usualGbPerDay: number | null
  readonly facts: LineFacts
}

/** What is asked over a line, how often, and how many silent answers in a row count. */
export interface Probe {
  readonly kind: 'icmp' | 'dns' | 'http'
  readonly targets: readonly string[]
  /** So many targets must be silent for a round to count as missed. */
  readonly quorum: number
  readonly everyS: number
  readonly timeoutS: number
  /** Missed rounds in a row after which the line is taken for dead, and good ones after which it is taken for well. */
  readonly misses: number
  readonly returns: number
}

/** What has to be known of a provider's line before it is touched. Null: nobody has found out. */
export interface LineFacts {
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
  readonly cellular: boolean
  /** True where a port that its maker ships switched off or unlicensed has been enabled. */
  readonly portEnabled: boolean
  /** True where a routing modem hands everything that arrives on to the gateway. */
  readonly modemForwards: boolean
}

export type Protocol = 'tcp' | 'udp' | 'icmp'

export interface ServiceEntry {
  readonly proto: Protocol
  /** First and last destination port, 0 to 65535; 0 and 0 for icmp. */
  readonly from: number
  readonly to: number
}

export interface Service {
  readonly id: string
  readonly name: string
  readonly entries: readonly ServiceEntry[]
}

/** `any` is truly anything; `inside` is every network of the site, without the internet and the gateway itself. */
export type Selector =
  | { readonly kind: 'any' }
  | { readonly kind: 'inside' }
  | { readonly kind: 'network'; readonly id: string }
  | { readonly kind: 'device'; readonly id: string }
  | { readonly kind: 'prefix'; readonly prefix: string }
  | { readonly kind: 'internet' }
  | { readonly kind: 'gateway' }
  | { readonly kind: 'tunnel'; readonly id: string }
  | { readonly kind: 'peer'; readonly id: string }

export interface Rule {
  readonly id: string
  /** `forward`: through the gateway. `input`: to the gateway itself. */
  readonly chain: 'forward' | 'input'
  readonly action: 'accept' | 'drop' | 'reject'
  readonly from: Selector
  readonly to: Selector
  /** Service ids; an empty list means every service. */
  readonly services: readonly string[]
  readonly note: string
}

/** The ordered rules of one gateway and what happens when none matches. Replies follow accepted flows. */
export interface Policy {
  readonly deviceId: string
  readonly forward: 'accept' | 'drop'
  readonly input: 'accept' | 'drop'
  readonly rules: readonly Rule[]
}

export interface StaticRoute {
  readonly id: string
  readonly deviceId: string
  readonly prefix: string
  readonly via: string
  /** Of routes to the same prefix the lowest is used. */
  readonly metric: number
}

/** Which line, or tunnel, some senders take to the internet. The first that matches decides; the rest takes the lines in order. */
export interface PolicyRoute {
  readonly id: string
  readonly deviceId: string
  readonly from: Selector
  /** Service ids; an empty list means every service. */
  readonly services: readonly string[]
  readonly out: { readonly kind: 'uplink' | 'tunnel'; readonly id: string }
  /** While `out` is down: take what comes next, or nothing at all. */
  readonly orElse: 'next' | 'refuse'
  readonly note: string
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
  readonly note: string
}

/** A WireGuard interface of a gateway and who may speak on it. */
export interface Tunnel {
  readonly id: string
  readonly name: string
  readonly deviceId: string
  /** Name under which peers find it (kept up to date by dynamic DNS); null where they dial an address. */
  readonly publicName: string | null
  /** Address in the tunnel and the length of its subnet: `10.61.20.1/29`. */
  readonly address: string
  readonly listenPort: number
  readonly mtu: number
  /** Public key, 44 characters of base64; null while there is none. Private keys are never in a plan. */
  readonly publicKey: string | null
  readonly peers: readonly Peer[]
}

export interface Peer {
  readonly id: string
  readonly name: string
  /** Another site, one person on the road, or a provider through which the internet is reached. */
  readonly kind: 'site' | 'person' | 'provider'
  readonly publicKey: string | null
  /** Addresses that belong to the peer: taken from it and sent to it. */
  readonly allowed: readonly string[]
  /** Addresses of ours that the peer's own configuration allows: what it sends here, and takes from here. */
  readonly theirAllowed: readonly string[]
  /** Host and port that this gateway dials; null where the peer dials us. */
  readonly endpoint: string | null
  /** Seconds between packets that keep a translation open on the way; null for none. */
  readonly keepaliveS: number | null
}

/** What must get through. Whatever no intent names must not. */
export interface Intent {
  readonly id: string
  readonly from: Selector
  readonly to: Selector
  /** Service ids; an empty list means every service. */
  readonly services: readonly string[]
  /** Ids of devices, links or uplinks whose single failure this intent must survive. */
  readonly survives: readonly string[]
  readonly note: string
}

export interface Building {
  readonly id: string
  readonly name: string
}
/** The distance between two buildings and what lies between. */
export interface Span {
  readonly id: string
  readonly a: string
  readonly b: string
  readonly distanceM: number
  readonly crosses: 'nothing' | 'ground' | 'road' | 'water'
}
export interface Room {
  readonly id: string
  readonly name: string
  readonly buildingId: string
  /** People at work there; null where nobody has counted. */
  readonly people: number | null
}
/** A group of devices that must be connected, before it has a network. */
export interface NeedLine {
  readonly id: string
  readonly name: string
  readonly count: number
  readonly growthPct: number
  /** VLAN number wished for; null for the next free one. */
  readonly vlan: number | null
  /** The network made for it; null while there is none. */
  readonly networkId: string | null
}
/** Another site that tunnels lead to. */
export interface FarSite {
  readonly id: string
  readonly name: string
  readonly subnets: readonly string[]
  /** Subnet inside the tunnel; null for none. */
  readonly tunnel: string | null
}
/** Something that stands on the site already. */
export interface Existing {
  readonly id: string
  readonly what: string
  readonly fate: 'keep' | 'replace' | 'unknown'
}
/** One piece of equipment: its label read off, and the device of the plan it will be. */
export interface Equipment {
  readonly id: string
  readonly model: string
  readonly serial: string
  readonly mac: string | null
  readonly deviceId: string | null
}

/** What is gathered before anything is unplugged. */
export interface Brief {
  readonly buildings: readonly Building[]
  readonly spans: readonly Span[]
  readonly rooms: readonly Room[]
  readonly needs: readonly NeedLine[]
  readonly far: readonly FarSite[]
  readonly existing: readonly Existing[]
  readonly equipment: readonly Equipment[]
  /** How to get onto the internet while the lines are down; empty while nobody has said. */
  readonly otherWay: string
}

/** A switch's port map kept for the next one like it. */
export interface PortTemplate {
  readonly id: string
  readonly name: string
  readonly model: string
  readonly ports: readonly { readonly names: string; readonly mode: PortMode }[]
}

export interface SiteFacts {
  readonly name: string
  readonly supernet: string
  /** IPv6 prefix of the whole site; null where IPv6 is left off. */
  readonly prefix6: string | null
  /** How subnets are chosen: VLAN number as third octet, or the tightest gap that fits. */
  readonly subnetPolicy: 'octet' | 'best-fit'
  /** ISO 3166-1 alpha-2 code of where radios operate; empty while it is not set. */
  readonly country: string
  readonly labelRule: string
  readonly upsWh: number | null
  readonly upsEfficiency: number
  readonly pricePerKwh: number
  readonly currency: string
  /** Share of a PoE budget kept free, %. */
  readonly poeHeadroomPct: number
  /** Longest outage that a line's failure may cause, s, and how often a year a line may be taken for dead without reason; null for no wish. */
  readonly mostOutageS: number | null
  readonly mostFalseAlarms: number | null
}

export interface Plan {
  readonly format: typeof PLAN_FORMAT
  readonly version: typeof PLAN_VERSION
  readonly site: SiteFacts
  readonly brief: Brief
  /** Models of the planner's own, beside the catalogue. */
  readonly models: readonly Model[]
  readonly templates: readonly PortTemplate[]
  readonly networks: readonly Network[]
  readonly devices: readonly Device[]
  readonly links: readonly Link[]
  readonly ssids: readonly Ssid[]
  readonly uplinks: readonly Uplink[]
  readonly services: readonly Service[]
  readonly policies: readonly Policy[]
  readonly routes: readonly StaticRoute[]
  readonly policyRoutes: readonly PolicyRoute[]
  readonly forwards: readonly PortForward[]
  readonly tunnels: readonly Tunnel[]
  readonly intents: readonly Intent[]
}

/** What stands before an uplink's id for: its cable and modem are well, but nothing answers beyond. */
export const DARK = 'dark:'
/** Ids of failed devices, links, uplinks, tunnels and peers, and of lines that are dark. Empty: all well. */
export type Weather = readonly string[]
