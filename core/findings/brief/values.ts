import type { MissingFact } from '#core/brief'

/** What the findings of the brief and of the equipment say, by code. */
export interface BriefValues {
  /** A fact of an uplink is not known. */
  W01: { fact: MissingFact['key']; about: string; blocks: string; key: MissingFact['key'] }
  /** The port that an uplink comes in on is locked by its maker, or switched off. */
  W07: { uplink: string; device: string; port: string; kind: 'locked' | 'off' }
  /** Two address translations in a row. */
  W11: { uplink: string; kind: 'router' | 'provider'; address: string }
  /** An uplink was taken to have an address of its own, and has none. */
  W17: { uplink: string; kind: 'provider'; address: string }
  /** Something is wrong with a box of the equipment list. */
  D04: { kind: BoxTrouble; name: string; serial: string; key: BoxTrouble } & BoxDetail
  /** Radios, and no country. */
  D08: { radios: number }
}

export type BoxTrouble =
  'wrong-check' | 'malformed' | 'other-kind' | 'twice' | 'mac-twice' | 'device-twice' | 'other-model'

/** What else is known of a box's trouble, as far as its kind has it. */
export interface BoxDetail {
  /** What the serial is of instead. */
  of?: string
  other?: string
  mac?: string
  model?: string
  planned?: string
}

export interface BriefMends {
  'port-enabled': { port: string }
  'outside-shared': { uplink: string }
}
