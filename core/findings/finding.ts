// Question: what is wrong with the plan, where, and how surely can it be mended?
// Method: each check returns plain findings by code; wording is built from code and values elsewhere.
// What a code's values are is said once, in the `values.ts` of its domain; the words for it fail to compile
// until they are there.
import { findPort, type PlanIndex } from '#core/queries'
import type { Change, Json } from '#core/edit'
import type { PortRef } from '#core/schema'
import type { AddressMends, AddressValues } from './address/values'
import type { BriefMends, BriefValues } from './brief/values'
import type { CablingMends, CablingValues } from './cabling/values'
import type { Layer2Mends, Layer2Values } from './layer2/values'
import type { PolicyMends, PolicyValues } from './policy/values'
import type { RadioMends, RadioValues } from './radio/values'
import type { TunnelMends, TunnelValues } from './tunnels/values'
import type { UplinkMends, UplinkValues } from './uplinks/values'
import type { WifiMends, WifiValues } from './wifi/values'
import type { WorkMends, WorkValues } from './work/values'

export type Severity = 'blocker' | 'warning' | 'note'
export type SheetId =
  | 'brief'
  | 'equipment'
  | 'addresses'
  | 'loom'
  | 'power'
  | 'uplinks'
  | 'wifi'
  | 'bridges'
  | 'tunnels'
  | 'reach'
  | 'rules'
  | 'roster'
  | 'run-sheet'

/** What each finding says, by code. */
export type FindingValues = AddressValues &
  BriefValues &
  CablingValues &
  Layer2Values &
  PolicyValues &
  RadioValues &
  TunnelValues &
  UplinkValues &
  WifiValues &
  WorkValues
export type FindingCode = keyof FindingValues

/** What the button of each mend says, by code. */
export type MendValues = AddressMends &
  BriefMends &
  CablingMends &
  Layer2Mends &
  PolicyMends &
  RadioMends &
  TunnelMends &
  UplinkMends &
  WifiMends &
  WorkMends
export type MendCode = keyof MendValues

interface MendOf<Code extends MendCode> {
  readonly code: Code
  readonly values: Readonly<MendValues[Code]>
  readonly changes: readonly Change[]
}
/** A certain repair: what to change, and the values its button needs. */
export type Mend = { [Code in MendCode]: MendOf<Code> }[MendCode]

interface FindingOf<Code extends FindingCode> {
  readonly code: Code
  readonly severity: Severity
  readonly sheet: SheetId
  /** Path of the field it is about: keys and ids from the plan's root. */
  readonly place: readonly string[]
  /** `key`: what tells it apart from others of its code and place, where there can be several. */
  readonly values: Readonly<FindingValues[Code]>
  readonly mend: Mend | null
}
export type Finding = { [Code in FindingCode]: FindingOf<Code> }[FindingCode]

/** A finding before it is known which sheet it is told on. */
export type Draft = { [Code in FindingCode]: Omit<FindingOf<Code>, 'sheet'> }[FindingCode]
type DraftOf<Code extends FindingCode> = Omit<FindingOf<Code>, 'sheet'>

export const draft = <Code extends FindingCode>(
  code: Code,
  severity: Severity,
  place: readonly string[],
  values: Readonly<FindingValues[Code]>,
  mend: Mend | null = null,
): DraftOf<Code> => ({ code, severity, place, values, mend })

/** Findings as they are told on a sheet. */
export const onSheet = (sheet: SheetId, drafts: readonly Draft[]): Finding[] =>
  drafts.map((told): Finding => ({ ...told, sheet }))

/** A change of one field; both sides are plain data. */
export function set(path: readonly string[], before: unknown, after: unknown): Change {
  return { kind: 'set', path, before: before as Json, after: after as Json }
}
/** Something of a list that goes. */
export const removed = (path: readonly string[], before: object): Change => ({
  kind: 'removed',
  path,
  before: before as Json,
  after: null,
})

/** Findings with the same code and place are one and the same; this tells them apart from all others. */
export function findingKey({ code, place, values }: Draft): string {
  return `${code} ${place.join('/')} ${'key' in values ? values.key : ''}`
}

/** How it is noted that somebody hands a site over although this is open. */
export const acceptanceOf = (finding: Draft): string => `finding ${findingKey(finding)}`
/** Whether a text can be such a note; which findings a plan has is not asked. */
export const isAcceptance = (text: string): boolean => /^finding [A-Z]\d\d \S+ /.test(text)

export const portPlace = (ref: PortRef): string[] => ['devices', ref.deviceId, 'ports', ref.portId]
/** Names of a port's device and of the port. */
export const labelOf = (index: PlanIndex, ref: PortRef): { device: string; port: string } => ({
  device: index.devices.get(ref.deviceId)?.name ?? ref.deviceId,
  port: findPort(index, ref)?.name ?? ref.portId,
})
