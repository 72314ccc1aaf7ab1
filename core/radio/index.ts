export { aimedDbm, beamWidthDeg, judgePeak, sideLobeDeg, UNKNOWN_BEARINGS_DEG } from './aiming'
export type { Aim, AimVerdict } from './aiming'
export { availabilityOf, HEAVIEST_PERCENT, knowsRain, lostInRain, rainOfZone } from './availability'
export { dishGainDbi, sectorLossDb } from './antenna'
export { budgetFrom, geometryOf, hearing, spareDb } from './link-budget'
export type { StepCode } from './link-budget'
export { clearances, lineAt, raisesM, WANTED_SHARE, yearsToClose } from './path-profile'
export { solarDays } from './solar'
export { windLoad } from './wind'
export { isNarrower, wiresBehind } from './wires'
export type { WireBehind } from './wires'
export type { WindLoad } from './wind'
export {
  expectedDbm,
  freeRadioPorts,
  isOtherDistance,
  TOLERANCE_DB,
  shortfallDb,
  radioLinks,
  surveyedDbm,
} from './plan-links'
export type { RadioLink, Unsaid } from './plan-links'
export { linkRates, ratesOf } from './link-rates'
export type { LinkRates } from './link-rates'
export { earthBulgeM, freeSpaceLossDb, fresnelRadiusM, K_USUAL } from './propagation'
export { fastestAt, knowsWidth, mcsOf, mostStreams, rateAt, rateMbps } from './generations'
export { slabTransmission, wallLossDb } from './materials'
export { WIDTH_60_MHZ } from './rates'
