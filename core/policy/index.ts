export {
  EVERYTHING,
  formatServices,
  includes,
  intersect,
  isNothing,
  minus,
  namedParts,
  normalise,
  NOTHING,
  sameSet,
  sample,
  servicesOf,
  union,
} from './services'
export type { Intervals, ServiceSet } from './services'
export { accepted, byDefault, decide, decideMarked, policiesOf } from './rules'
export { addressAtoms, atomBoundaries, forwardingAtoms, representatives, routedPorts } from './address-atoms'
export type { AtomTable, RoutedPort } from './address-atoms'
export { faceOf, fixedAddresses, matcherOf, prefixesOf, tunnelVia } from './selectors'
export { compileIntents } from './compile'
export type { Compiled } from './compile'
export { readIntents, writeIntents } from './intent-text'
export { covers, outsideOf, sidesOf } from './sides'
export { anomaliesOf } from './anomalies'
export { hitsOf } from './hits'
export type { Hits } from './hits'
export type { RuleVerdict } from './anomalies'
export {
  ALLOW_ALL,
  allOf,
  allowOnly,
  anyOf,
  DENY_ALL,
  evaluate,
  evaluateFor,
  filterRefs,
} from './path-filter'
export type { FilterRef, PathFilter } from './path-filter'
export type { CompiledPolicy, Decision, Marks, Policies } from './rules'
export type { Matcher, Side } from './selectors'
export { readEntries, registered, writeEntries } from './service-text'
export type { PortRegistry } from './service-text'
