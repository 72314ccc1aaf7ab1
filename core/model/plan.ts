// Question: what is a plan? One readonly document that says how a site is meant to be built.
// Method: plain data with ids; addresses stay text as people typed them, canonical after parsing.
// Source: terms of IEEE 802.1Q (VLAN, native, tagged) and RFC 2131 (DHCP).

import type { IpsecLink, PortForward, StaticRoute, Tunnel, Uplink } from './lines'
import type { DeviceKind, Model } from './product'
import type { Group, Intent, Policy, PolicyRoute, Schedule, Service } from './rules'

export const PLAN_FORMAT = 'able-mast-plan'
/** Raised when an older reader would misunderstand the document. */
export const PLAN_VERSION = 8

/**
 * Whether tagged frames may use a port, and as what untagged frames count.
 * `plain`: the device does no VLANs.
 */
export type PortMode =
  | { readonly mode: 'access'; readonly vlan: number }
  | { readonly mode: 'trunk'; readonly native: number | null; readonly tagged: readonly number[] | 'all' }
  /** An address of its own and no bridge: `10.61.255.1/30`. */
  /** An address with its length; `address6` the same of IPv6, null for none. */
  | { readonly mode: 'routed'; readonly address: string; readonly address6: string | null }
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
  | {
      readonly kind: 'copper'
      readonly category: CopperCategory
      readonly lengthM: number
      readonly run: CableRun
    }
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
export interface StaticAssignment {
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
  /**
   * IPv6 address typed into the device beside `ip`, with the network's length and router; null where it makes
   * its own.
   * Only meaningful for static.
   */
  readonly ip6: string | null
}

/** An address range, both ends included. */
export interface TextRange {
  readonly from: string
  readonly to: string
}

/**
 * What DHCP tells clients beyond their address.
 * Lists are addresses; an empty list means the gateway itself for DNS, nothing for NTP.
 */
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
  readonly fixed: readonly StaticAssignment[]
}

export interface Ssid {
  readonly id: string
  readonly name: string
  readonly networkId: string
  /** Client isolation: stations of this SSID cannot talk to each other. */
  readonly isolation: boolean
  readonly apIds: readonly string[]
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
  /**
   * Longest outage that a line's failure may cause, s, and how often a year a line may be taken for dead
   * without reason; null for no wish.
   */
  readonly mostOutageS: number | null
  readonly mostFalseAlarms: number | null
  /** Who is told when a line fails; empty for nobody. */
  readonly toldTo: string
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
  readonly groups: readonly Group[]
  readonly schedules: readonly Schedule[]
  readonly policies: readonly Policy[]
  readonly routes: readonly StaticRoute[]
  readonly policyRoutes: readonly PolicyRoute[]
  readonly forwards: readonly PortForward[]
  readonly tunnels: readonly Tunnel[]
  readonly ipsec: readonly IpsecLink[]
  readonly intents: readonly Intent[]
}

/** What stands before an uplink's id for: its cable and modem are well, but nothing answers beyond. */
export const DARK = 'dark:'
/**
 * Ids of failed devices, links, uplinks, tunnels and peers, and of lines that are dark; and at most one
 * moment of the week, `at:1-08:00`.
 * Empty: all well, at the usual time.
 */
export type Weather = readonly string[]
