// Question: which kinds of devices are there, and what is said of a model?
// Method: plain types; the catalogue fills them, and planners do for models of their own.
// Source: PoE classes as in IEEE 802.3-2022 clauses 33 and 145.

export type DeviceKind =
  | 'gateway'
  | 'switch'
  | 'unmanaged'
  | 'access-point'
  | 'bridge-radio'
  | 'extender'
  | 'modem'
  | 'controller'
  | 'injector'
  | 'hosts'
  | 'cloud'

/** What a port gives. Passive power is a fixed voltage that asks nobody. */
export type PoeSource =
  | { readonly standard: 'ieee'; readonly class: number }
  | { readonly standard: 'passive'; readonly volts: number; readonly mostW: number }

/** What a port takes. */
export type PoeLoad =
  | { readonly standard: 'ieee'; readonly class: number; readonly typicalW: number }
  | {
      readonly standard: 'passive'
      readonly leastV: number
      readonly mostV: number
      readonly typicalW: number
    }

/** Ports that are alike. */
export interface PortGroup {
  /** Names and spans of numbers: `1-24`, `lan`, `1, 3-4`. */
  readonly names: string
  readonly kind: 'copper' | 'sfp' | 'radio'
  readonly speedsMbps: readonly number[]
  /** What the maker ships the port as. `network` and `powered` are an injector's two sides. */
  readonly role: 'lan' | 'wan' | 'any' | 'network' | 'powered'
  /** Shipped switched off, or in need of a licence. */
  readonly locked: boolean
  readonly source: PoeSource | null
  readonly load: PoeLoad | null
}

/** Where a device is when it comes from the factory. */
export type Factory =
  | { readonly kind: 'dhcp-server'; readonly address: string }
  | { readonly kind: 'fixed'; readonly address: string }
  /** A base address, and a knob whose setting is added. */
  | { readonly kind: 'channel'; readonly address: string; readonly channel: number }
  | { readonly kind: 'dhcp-client' }

export interface Light {
  readonly shows: string
  readonly means: string
}

export interface Model {
  readonly name: string
  readonly label: string
  readonly kind: DeviceKind
  /** Oldest firmware that can be adopted; empty where it is not managed. */
  readonly minFirmware: string
  /** The firmware a plan brings it to; empty where it is not managed. */
  readonly plannedFirmware: string
  /** From power-on to an answer on the network, s (practice). */
  readonly bootS: number
  /** From the first request to in sync, s (practice). */
  readonly adoptS: number
  readonly ports: readonly PortGroup[]
  /** Power it can give to all its ports together, W; null where it gives none. */
  readonly poeBudgetW: number | null
  /** Own draw without what it gives to others, W. */
  readonly idleW: number
  readonly factory: Factory
  /** How it is first signed in to: a password on its label, one that all of them share, or none. */
  readonly credentials: 'label' | 'common' | 'none'
  readonly lights: readonly Light[]
  /** Speaks the spanning tree protocol. */
  readonly stp: boolean
  /** Devices it can manage; null where it manages none. */
  readonly capacity: { readonly accessPoints: number; readonly switches: number } | null
  /** Throughput with inspection on, Mb/s; null where it has none. */
  readonly inspectionMbps: number | null
}
