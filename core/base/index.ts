export { ok, orNull, problem, refuse, unreachable } from './result'
export type { Problem, Result } from './result'
export { by, byId, byText, groupBy } from './order'
export { memoOn } from './memo'
