// Question: which cable, how long, how fast, what is written on it and what has to be bought?
export { CHANNEL_M, copperReachM, copperSpeed, FIXED_M, opticFor, OPTICS, TCP_SHARE } from './media'
export type { Optic } from './media'
export { linkSpeed, speedsOf } from './speed'
export type { LinkSpeed } from './speed'
export { cableLabels, isCable, LABEL_RULE, shortName, unknownInRule } from './labels'
export { cableSchedule, CORD_M, materials, SPARE_PCT } from './schedule'
export type { CableEnd, CableLine, Material } from './schedule'
