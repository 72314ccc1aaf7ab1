// Question: what must be known before anything is unplugged, and what of it is not?
export { buildingOf, endBuildings, missingFacts, missingOfUplink } from './facts'
export type { Blocks, FactKey, MissingFact } from './facts'
export { lacksOf } from './lacks'
export type { Lack } from './lacks'
export { beforeUnplug } from './checklist'
export type { CheckCode } from './checklist'
export { addressesOf, fleetOverlaps } from './fleet'
export type { FleetSite } from './fleet'
