import { count } from '../count'
import type { Finding, Mend, Severity } from '#core/findings'
import { ADDRESS_MENDS, ADDRESS_WORDS } from './address'
import { BRIEF_MENDS, BRIEF_WORDS } from './brief'
import { CABLING_MENDS, CABLING_WORDS } from './cabling'
import { LAYER2_MENDS, LAYER2_WORDS } from './layer2'
import { POLICY_MENDS, POLICY_WORDS } from './policy'
import { RADIO_MENDS, RADIO_WORDS } from './radio'
import { TUNNELS_MENDS, TUNNELS_WORDS } from './tunnels'
import { UPLINKS_MENDS, UPLINKS_WORDS } from './uplinks'
import { WIFI_MENDS, WIFI_WORDS } from './wifi'
import { WORK_MENDS, WORK_WORDS } from './work'
import type { FindingWords, MendWords, Words } from './words'

// What each finding says, by code.
// Codes and values come from core; words live here alone.

const WORDS: FindingWords = {
  ...ADDRESS_WORDS,
  ...BRIEF_WORDS,
  ...CABLING_WORDS,
  ...LAYER2_WORDS,
  ...POLICY_WORDS,
  ...RADIO_WORDS,
  ...TUNNELS_WORDS,
  ...UPLINKS_WORDS,
  ...WIFI_WORDS,
  ...WORK_WORDS,
}

const MENDS: MendWords = {
  ...ADDRESS_MENDS,
  ...BRIEF_MENDS,
  ...CABLING_MENDS,
  ...LAYER2_MENDS,
  ...POLICY_MENDS,
  ...RADIO_MENDS,
  ...TUNNELS_MENDS,
  ...UPLINKS_MENDS,
  ...WIFI_MENDS,
  ...WORK_MENDS,
}

/** A code and its values belong together, which the type of a table cannot say of a union. */
type Say<Text> = (values: unknown) => Text
export const wordsOf = ({ code, values }: Finding): Words => (WORDS[code] as Say<Words>)(values)
export const mendWords = ({ code, values }: Mend): string => (MENDS[code] as Say<string>)(values)

export const SEVERITY: Readonly<Record<Severity, { one: string; many: string }>> = {
  blocker: { one: 'blocker', many: 'blockers' },
  warning: { one: 'warning', many: 'warnings' },
  note: { one: 'note', many: 'notes' },
}

export { count }

/** `1 blocker, 4 warnings`; notes are left out unless there is nothing else. */
export function tally(findings: readonly Finding[]): string {
  const parts = (['blocker', 'warning', 'note'] as const).flatMap((severity) => {
    const total = findings.filter((f) => f.severity === severity).length
    return total === 0
      ? []
      : [{ severity, text: count(total, SEVERITY[severity].one, SEVERITY[severity].many) }]
  })
  const loud = parts.filter((p) => p.severity !== 'note')
  return (loud.length > 0 ? loud : parts).map((p) => p.text).join(', ') || 'nothing to mend'
}
