export { ok, orNull, problem, refuse, unreachable } from './result'
export type { Problem, Result } from './result'
export { by, byId, byText, countUpTo, groupBy } from './order'
export {
  bitsBefore,
  bitsWhere,
  bothBits,
  differingBits,
  distinctRows,
  eachShared,
  eitherBits,
  groupByRows,
  noBits,
  setBit,
  sharesAny,
} from './bits'
export type { BitRow } from './bits'
export { memoOn, memoOnParts, memoOnText, same } from './memo'
export { chance } from './chance'
