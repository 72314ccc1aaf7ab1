export {
  EVERYTHING, formatServices, includes, intersect, isNothing, minus, namedParts, normalise, NOTHING, sameSet, sample, servicesOf, union,
} from './services'
export type { Intervals, ServiceSet } from './services'
export { accepted, compilePolicy, cutPoints, decide, fixedAddresses } from './rules'
export type { CompiledPolicy, Decision, Side } from './rules'
