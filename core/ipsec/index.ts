// Question: do two ends of an IPsec connection fit each other, and is what they use still advised?
export { adviceFor, ENCRYPTION, GROUPS, INTEGRITY, PRF, unknownIn } from './algorithms'

export { termsOf } from './agree'
export type { Disagreement } from './agree'
