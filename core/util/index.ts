export { ok, orNull, problem, refuse, unreachable } from './result'
export type { Problem, Result } from './result'
export { by, byId, byText, isSameName, countUpTo, groupBy, leastWhere } from './order'
export type { Bits } from './bits'
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
export { chance } from './chance'
