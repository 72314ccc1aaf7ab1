export {
  EVERYTHING, formatServices, includes, intersect, isNothing, minus, namedParts, normalise, NOTHING, sameSet, sample, servicesOf, union,
} from './services'
export type { Intervals, ServiceSet } from './services'
export { accepted, byDefault, compilePolicy, cutPoints, decide, decideMarked, faceOf, fixedAddresses, matcherOf, policiesOf, prefixesOf, routedPorts, tellApart, tellWaysApart, tunnelVia } from './rules'
export { compileIntents } from './compile'
export type { Compiled } from './compile'
export { readIntents, writeIntents } from './intent-text'
export { covers, meets, sidesOf } from './sides'
export { anyToll, everyToll, FREE, paid, pay, rulesIn, SHUT } from './toll'
export type { RulesToll, Toll } from './toll'
export type { CompiledPolicy, Decision, Marks, Matcher, Policies, Side } from './rules'
