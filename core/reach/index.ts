// Question: who reaches whom, on what, in this weather?
// Method: openSite prepares a plan; gridOf answers for every pair; walkFlow explains one flow.
export { flowBetween, openSite } from './passage'
export type { Flow, Party, Passage, Site, StopCode } from './passage'
export { computeGrid, GATEWAY, gridOf, INTERNET, peerKey, verdictsOf } from './grid'
export type { Cell, FlowRef, Grid, IntentVerdict } from './grid'
export { faceOf, peerFor } from './routing'
export type { Exit, Routing, TunnelFace } from './routing'
export { lostUnder, singleFailures } from './storm'
export type { Lost } from './storm'
export { walkFlow } from './walk'
export type { Walk, WalkLine } from './walk'
export { endpointsOf, interfacesOf, leaseAt } from './endpoints'
export type { Endpoint, Interface4 } from './endpoints'
