export {
  bothWays,
  bridgeNode,
  cablePath,
  egressTag,
  endNode,
  hopsTo,
  ingressVid,
  makeFabric,
  modeFor,
  roomOf,
  UNTAGGED,
} from './frames'
export type { Fabric, Hop, Spread } from './frames'
export { DEFAULT_PRIORITY, pathCost, spanningTree, speaksTree } from './spanning-tree'
export type { Tree } from './spanning-tree'
export { neededOver, trunkProposals } from './propose-tags'
export type { TrunkProposal } from './propose-tags'
export { carriedOver, findKnots, needsOf } from './threads'
export type { Carried, Knot, Need } from './threads'
