// Question: what would have to change for an intent to be satisfied?
// Method: remediesFor tries single entries, then pairs, and says what else each would do.
export { remediesFor } from './remedies'
export type { Remedy } from './remedies'
export type { RemedyCode } from './candidates'
export { intentsFromRules } from './from-rules'
