import type { FindingCode } from '#core/findings'
import type { Change } from './changes'

/** A plan that raises a finding, at which place, and a plan close to it that does not. */
export type Case = readonly [
  code: FindingCode,
  meaning: string,
  place: string,
  raises: Change,
  nearby: Change,
]
