import type { FieldsFault } from '#core/address'

/** What the findings of radio links say, by code. */
export interface RadioValues {
  /** Less is to spare than the margin asks for, even for the slowest rate. */
  R01: { link: string; at: string; spareDb: number; marginDb: number; key: string }
  /** More is sent than the country permits, or on a frequency that it does not. */
  R02: { link: string; kind: 'too-strong' | 'forbidden'; country: string; eirpDbm: number; mostDbm: number }
  /** Too little of the first Fresnel zone is free. */
  R03: { link: string; percent: number; atM: number }
  /** Less is carried than is needed. */
  R04: { link: string; mbps: number; neededMbps: number }
  /** Both ends are set to different things, so that they do not find each other. */
  R05: { link: string; key: string } & (
    | { kind: 'frequency' | 'width' | 'name' | 'security' | 'mode'; first: string; second: string }
    | { kind: 'key'; at: string }
  )
  /** The radios wait too short a time for an answer. */
  R06: { link: string; setM: number; lengthM: number }
  /** An end reads so much less than is computed. */
  R07: { link: string; at: string; missingDb: number; key: string }
  /** Both ends open the network, or both would join one. */
  R08: { link: string; role: 'access-point' | 'station' }
  /** Address, mask and gateway of an end's own page do not say what they are there for. */
  R09: {
    link: string
    at: string
    kind: FieldsFault
    address: string
    mask: string
    gateway: string
    key: string
  }
  /** How high an antenna is, is not said. */
  R10: { link: string; at: string; key: string }
  /** What grows in the way takes too much of the zone in so many years. */
  R11: { link: string; atM: number; years: number }
  /** Nobody has said what keeps lightning off an end. */
  R12: { link: string; at: string; key: string }
  /** An end that is fed by the sun runs dry: on every dark day a little, or after so many days without sun. */
  R13: { link: string; at: string; kind: 'short' | 'dark'; days: number; key: string }
  /** An antenna is so much under its ground or over it, or over the other one, as nobody can have meant. */
  R14: {
    link: string
    at: string
    kind: 'under-ground' | 'high' | 'steep'
    heightM: number
    byM: number
    ifFeetM: number
    key: string
  }
  /** The wire behind an end is slower than the air. */
  R15: { link: string; at: string; mbps: number; byOwnPort: boolean; airMbps: number; key: string }
}

export interface RadioMends {
  'lower-bridge-power': { link: string; ends: number }
  'lengthen-range': { link: string; lengthM: number }
  'set-bridge-role': { device: string; role: 'access-point' | 'station' }
}
