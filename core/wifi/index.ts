export { airShares } from './airtime'
export { beaconsAt } from './beacons'
export { betterServed } from './better-served'
export type { Served } from './better-served'
export { channelAt, channelSpan, WIDTHS } from './channels'
export { loudestOn } from './channel-plan'
export {
  emittersOf,
  isPredictable,
  levelGrid,
  roomSignals,
  signalPercent,
  stepWithin,
  UNCERTAINTY_DB,
  WEAK_DBM,
  WELL_DBM,
} from './coverage'
export type { Emitter, LevelGrid, RoomSignal } from './coverage'
export { EXTENDER_DBM, extendersOf } from './extenders'
export { repeatsOf } from './repeats'
export type { ExtenderSignal } from './extenders'
export { placementsOf } from './floors'
export type { Floor, KnownPlacement } from './floors'
export { judgedDbm, parseReading } from './readings'
export { apRadios, eirpDbm, limitOf, spanOf, USUAL_RADIOS, withoutRadios } from './radios'
export type { ApRadio, LimitTrouble } from './radios'
export { hasRules, isTooStrong, linkPermission, REGULATORY_DATE } from './regulatory'
export { wifiScene, wifiSceneOf } from './scene'
export type { WifiScene } from './scene'
export { bestChannels, conflictOf, MOST_JUDGED, siteChannels } from './site-channels'
export type { SiteChannels } from './site-channels'
export { weaknessOf, hasPassphrase, isOpen, joinText, judgedPassphrase } from './passphrase'
export type { PassphraseVerdict, PassphraseWeakness } from './passphrase'
