// Question: how good is what a cellular modem hears?
// Method: both measures of the signal in four steps, the worse one counts.
// Source: common practice, without a source.
import type { Cellular } from '#core/schema'

export type Signal = 'strong' | 'good' | 'fair' | 'weak'
const STEPS: readonly Signal[] = ['strong', 'good', 'fair', 'weak']
const [RSRP_STEPS, SINR_STEPS] = [
  [-80, -90, -100],
  [20, 13, 0],
] as const
const stepOf = (value: number | null, steps: readonly number[]): number =>
  value === null ? 0 : steps.filter((least) => value < least).length

/**
 * How good the signal is, by the worse of the two readings; null where there is none.
 * Worked: -95 dBm and 15 dB -> fair.
 */
export function signalOf({ rsrpDbm, sinrDb }: Pick<Cellular, 'rsrpDbm' | 'sinrDb'>): Signal | null {
  if (rsrpDbm === null && sinrDb === null) return null
  return STEPS[Math.max(stepOf(rsrpDbm, RSRP_STEPS), stepOf(sinrDb, SINR_STEPS))] ?? null
}
