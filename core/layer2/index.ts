export { bridgeNode, egressTag, endNode, ingressVid, modeFor, parseNode, UNTAGGED } from './tagging'
export { bothWays, cablePath, hopsTo, layer2Of } from './layer2'
export type { BfsTree, Hop, Layer2 } from './layer2'
export { pathCost, spanningTree } from './spanning-tree'

export { vlansNeededOnLinks, trunkProposals } from './propose-tags'

export { vlansOnLinks, vlanGaps, vlanDemands } from './vlan-coverage'
export type { VlanOnLink, VlanGap } from './vlan-coverage'
