// Question: which cable, how long, how fast, what is written on it and what has to be bought?
export { CHANNEL_M, copperReachM, copperSpeed, opticFor, OPTICS, TCP_SHARE } from './media'

export { linkSpeed, speedsOf } from './speed'

export { cableLabels, LABEL_RULE, shortName, unknownInRule } from './labels'
export { cableSchedule, materials, SPARE_PCT } from './schedule'
export type { CableEnd, CableLine } from './schedule'
