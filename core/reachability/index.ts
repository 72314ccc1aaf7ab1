// Question: who reaches whom, on what, under this failure scenario?
// Method: openSite prepares a plan; gridOf answers for every pair; walkFlow explains one flow.
export { leaseAt, openSite, openIpv6Site } from './data-plane'
export type { Site } from './plane'
export { flowBetween } from './round-trip'

export { ipv6ProjectionOf, speaksIpv6 } from './ipv6-projection'

export type { Party, StopCode } from './trace'
export { computeMatrix, matrixOf, verdictsOf } from './matrix'
export type { ReachabilityMatrix, IntentVerdict } from './matrix'
export { gatewaySeenBy, outerGatewayId } from './gateway-choice'
export { GATEWAY, INTERNET, peerKey } from './zones'
export { matrixZones, intentCells, zonesOfSelector, selectorOf, setIntentForPair } from './intent-grid'
export type { IntentCell } from './intent-grid'
export type { MatrixCell, FlowRef } from './cell'

export { flowsChanged } from './reachability-diff'
export type { FlowChange } from './reachability-diff'
export { callFromInside, callsFromInside } from './hairpin'
export type { InsideCalls } from './hairpin'
export { capacityOf, secondsToMove, pathSegments } from './capacity'
export type { Capacity, PathSegment } from './capacity'
export { asSecondFamily, groupCell, groupEqualRows, cellsOf, keptGroups, restrictTo } from './collapse'
export type { RowGroup, CellAt } from './collapse'
export { jointOnlyImpact, impactOf, pairsOf, singleFailures, singleFailuresByText } from './failure-analysis'
export type { IntentLoss } from './failure-analysis'
export { currentFlow, flowTyped, readFlow, walkFlow } from './walk'
export type { FlowText, Walk, WalkLine } from './walk'
