// Question: is a passphrase that is kept for an SSID soon guessed, or used for another as well?
// Method: what the server says of each, which knows them and never tells; it is no part of a plan, so that this is
// judged apart from all other findings.
// Source: 14 letters and a year of guessing, common practice without a source.
import type { Plan } from '#core/schema'
import { hasPassphrase, type PassphraseWeakness } from '#core/wifi'
import { draft, onSheet, type Draft, type Finding } from '../finding'

export interface KeptPassphrase {
  readonly ssidId: string
  readonly weakness: PassphraseWeakness | null
  /** Other SSIDs that have the same. */
  readonly sameAs: readonly string[]
}

/** In the plan's order of SSIDs; of two that share one it is told at the later. */
export function checkPassphrases({ ssids }: Plan, kept: readonly KeptPassphrase[]): Finding[] {
  const known = new Map(kept.map((one) => [one.ssidId, one]))
  const drafts = ssids.filter(hasPassphrase).flatMap(({ id, name }, place, all): Draft[] => {
    const own = known.get(id)
    if (!own) return []
    const at = ['ssids', id, 'settings', 'security']
    const other = all.slice(0, place).find((one) => own.sameAs.includes(one.id))
    return [
      ...(own.weakness ? [draft('F02', 'warning', at, { ssid: name, kind: own.weakness })] : []),
      ...(other ? [draft('F16', 'warning', at, { ssid: name, other: other.name })] : []),
    ]
  })
  return onSheet('wifi', drafts)
}
