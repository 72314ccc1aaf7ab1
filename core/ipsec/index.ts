// Question: do two ends of an IPsec connection fit each other, and is what they use still advised?
export { adviceFor, ENCRYPTION, FADING, GROUPS, INTEGRITY, isCombined, PRF, unknownIn } from './algorithms'
export type { Advice, Algorithm, Standing } from './algorithms'
export { termsOf } from './agree'
export type { Agreed, Disagreement, Terms } from './agree'
