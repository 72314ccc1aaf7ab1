export { asBuilt, plugIn, uplinkPeer } from './as-built'
export type { LabFault, LabSign, PlugIn } from './as-built'
