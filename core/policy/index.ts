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
export { accepted, byDefault, compilePolicy, decide, decideMarked, policiesOf } from './rules'
export { cutPoints, firstOfEach, routedPorts, tellApart, tellWaysApart } from './numbering'
export { faceOf, fixedAddresses, fixedAs, matcherOf, prefixesOf, tunnelVia } from './selectors'
export { compileIntents } from './compile'
export type { Compiled } from './compile'
export { readIntents, writeIntents } from './intent-text'
export { covers, outsideOf, sidesOf } from './sides'
export { anomaliesOf } from './anomalies'
export { hitsOf } from './hits'
export type { Hits } from './hits'
export type { RuleVerdict } from './anomalies'
export { anyToll, everyToll, FREE, paid, pay, rulesIn, SHUT } from './toll'
export type { RulesToll, Toll } from './toll'
export type { CompiledPolicy, Decision, Marks, Policies } from './rules'
export type { Matcher, Side } from './selectors'
export { readEntries, registered, writeEntries } from './service-text'
export type { PortRegistry } from './service-text'
