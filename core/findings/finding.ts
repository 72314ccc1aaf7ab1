// Question: what is wrong with the plan, where, and how surely can it be mended?
// Method: each check returns plain findings by code; wording is built from code and values elsewhere.
import { findPort, type Change, type Json, type PlanIndex, type PortRef } from '#core/model'

export type Severity = 'blocker' | 'warning' | 'note'
export type SheetId =
  | 'brief'
  | 'equipment'
  | 'addresses'
  | 'loom'
  | 'power'
  | 'uplinks'
  | 'tunnels'
  | 'reach'
  | 'rules'
  | 'roster'

export type FindingCode =
  | 'A01'
  | 'A02'
  | 'A03'
  | 'A04'
  | 'A05'
  | 'A06'
  | 'A07'
  | 'A08'
  | 'A09'
  | 'A10'
  | 'A11'
  | 'A12'
  | 'A13'
  | 'A14'
  | 'A15'
  | 'A16'
  | 'A17'
  | 'A18'
  | 'A19'
  | 'A20'
  | 'A21'
  | 'A22'
  | 'A23'
  | 'A24'
  | 'D04'
  | 'D08'
  | 'F04'
  | 'E01'
  | 'E02'
  | 'E03'
  | 'E04'
  | 'E05'
  | 'E06'
  | 'E07'
  | 'E08'
  | 'E09'
  | 'E10'
  | 'E11'
  | 'E12'
  | 'E13'
  | 'P01'
  | 'P02'
  | 'P03'
  | 'P04'
  | 'P05'
  | 'P06'
  | 'P07'
  | 'P08'
  | 'P09'
  | 'P10'
  | 'V01'
  | 'V02'
  | 'V03'
  | 'V04'
  | 'V05'
  | 'V06'
  | 'V07'
  | 'V08'
  | 'V09'
  | 'V10'
  | 'V11'
  | 'V12'
  | 'V14'
  | 'V15'
  | 'V16'
  | 'V17'
  | 'V18'
  | 'V19'
  | 'V20'
  | 'W01'
  | 'W02'
  | 'W03'
  | 'W04'
  | 'W05'
  | 'W06'
  | 'W07'
  | 'W08'
  | 'W09'
  | 'W10'
  | 'W11'
  | 'W13'
  | 'W14'
  | 'W15'
  | 'W16'
  | 'W17'

/** A certain repair: what to change, and the values its button needs. */
export interface Mend {
  readonly code: string
  readonly values: Readonly<Record<string, string | number>>
  readonly changes: readonly Change[]
}

export interface Finding {
  readonly code: FindingCode
  readonly severity: Severity
  readonly sheet: SheetId
  /** Path of the field it is about: keys and ids from the plan's root. */
  readonly place: readonly string[]
  readonly values: Readonly<Record<string, string | number>>
  readonly mend: Mend | null
}

/** A change of one field; both sides are plain data. */
export function set(path: readonly string[], before: unknown, after: unknown): Change {
  return { kind: 'set', path, before: before as Json, after: after as Json }
}

/** Findings with the same code and place are one and the same; this tells them apart from all others. */
export function findingKey(finding: Finding): string {
  return `${finding.code} ${finding.place.join('/')} ${finding.values['key'] ?? ''}`
}

/** A finding before it is known which sheet it is told on. */
export type Draft = Omit<Finding, 'sheet'>
export const draft = (
  code: FindingCode,
  severity: Severity,
  place: readonly string[],
  values: Finding['values'],
  mend: Mend | null = null,
): Draft => ({ code, severity, place, values, mend })

export const portPlace = (ref: PortRef): string[] => ['devices', ref.deviceId, 'ports', ref.portId]
/** Names of a port's device and of the port. */
export const labelOf = (index: PlanIndex, ref: PortRef): { device: string; port: string } => ({
  device: index.devices.get(ref.deviceId)?.name ?? ref.deviceId,
  port: findPort(index, ref)?.name ?? ref.portId,
})
