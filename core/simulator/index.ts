export { asBuilt, plugIn, uplinkPeers } from './as-built'
export type { LabFault, LabSign, PlugIn } from './as-built'
