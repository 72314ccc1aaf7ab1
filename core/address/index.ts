export {
  contains,
  formatIpv4,
  formatPrefix4,
  ipv4,
  lastOf,
  maskOf,
  networkOf,
  overlaps,
  parseInterface4,
  parseIpv4,
  parseMask,
  parsePrefix4,
  parseRange4,
  rangePrefixes,
  readInterface4,
  readPrefixes4,
  sizeOf,
  usable,
} from './ipv4'
export type { Ipv4, Prefix4, Range4 } from './ipv4'
export { CROWDED, gapsIn, isGlobal, largestIn, rangesWithout, spaceOf } from './space'

export { segmentsOf } from './segments'
export type { SegmentKind } from './segments'
export { fieldsFault } from './fields'
export type { FieldsFault } from './fields'
export { parseMac } from './mac'
export {
  contains6,
  formatIpv6,
  formatPrefix6,
  overlaps6,
  parseIpv6,
  parsePrefix6,
  readInterface6,
  routerIpv6,
  spaceOf6,
  subnet6For,
  uniqueLocal,
} from './ipv6'
export type { Prefix6 } from './ipv6'
export { allocate, bestFit, byOctet, grown, largestFree, lengthFor, snapTo } from './allocate'
export type { Wanted } from './allocate'
