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
export { localPrefixes, nextHopPrefix } from './local-prefixes'
export type { AtomTable } from './address-atoms'
export { fixedAddresses, matcherOf, tunnelInterface } from './selectors'
export { compileIntents } from './compile'

export { readIntents, writeIntents } from './intent-text'
export { subsumes, internetRepresentatives, packetEnds } from './packet-ends'
export { anomaliesOf } from './anomalies'
export { ruleUsage } from './rule-usage'
export type { RuleUsage } from './rule-usage'
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
  ofAnswers,
} from './path-filter'
export type { FilterRef, PathFilter } from './path-filter'
export type { CompiledPolicy, RuleMatchBits, Policies } from './rules'
export type { Matcher, PacketEnd } from './selectors'
export { readEntries, registered, writeEntries } from './service-text'
export type { PortRegistry } from './service-text'
