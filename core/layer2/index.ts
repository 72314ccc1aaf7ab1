export { bridgeNode, egressTag, endNode, ingressVid, modeFor, UNTAGGED } from './tagging'
export type { Layer2Node } from './tagging'
export { bothWays, cablePath, cableTree, layer2Of } from './layer2'
export type { Layer2 } from './layer2'
export type { BfsTree, Hop } from './bfs-tree'
export { pathCost, spanningTree } from './spanning-tree'

export { uplinkVids, uplinkEntries, uplinkLinks } from './uplink-path'
export { fitPorts } from './fit-ports'
export { trunkConversions, trunkProposals, vlansNeededOnLinks } from './propose-tags'

export { vlansOnLinks, vlanGaps, vlanDemands } from './vlan-coverage'
export type { VlanOnLink, VlanGap } from './vlan-coverage'
