export {
  MODELS,
  compareVersions,
  factoryBridge,
  factoryRadios,
  modelNamed,
  namesIn,
  portGroupsByName,
} from './catalogue'
export type { FactoryBridge } from './catalogue'
export { hasTrait, isHost, isRadio, isVlanAware, kindsWith } from './device-kinds'
export { createEngine, indexPlan } from './engine'
export type { Engine } from './engine'
export { homesOf, hostInterfaces, socketInterfaces } from './homes'
export { failableLists, failableThings } from './failable'
export { keyHolder } from './keys'
export { joinedLinks, joiningEnd } from './on-air'
export {
  byVlan,
  cableAt,
  canBeCalled,
  earlierAtPort,
  endAt,
  endsOf,
  farEnd,
  membersOf,
  modelOf,
  nextUplink,
  peerNamed,
  ipv6PrefixOf,
  selectorKey,
  specOf,
  tags,
  typedIpv6,
  sharingGroups,
  uplinkGroup,
  uplinkShare,
  uplinksInOrder,
  vidsOf,
} from './lookup'
export { lineAddress, networkAroundUplink } from './uplink-address'
export { mapsOf, rebase, translateDestination, translateSource } from './mapping'
export type { AddressMap } from './mapping'
export { networkInterface, readRange4 } from './network-interface'
export { tunnelRoom, uplinkMtu } from './mtu'
export { expandPairDefaults, isPairRule } from './pairs'
export { defineStage, findPort, portKey } from './plan-index'
export type { IndexedPlan, NetworkHead, PlanIndex } from './plan-index'
export { DAY, DAY_NAMES, clockOf, scheduleInstants, scheduleIntervals, schedulesHolding } from './schedules'
export { danglingReferences } from './references'
export type { DanglingReference } from './references'
export { checkCharacter, makeSerial, parseSerial } from './serial'
export type { SerialKind } from './serial'
export { signalOf } from './signal'
export {
  RAIN_ID,
  conditionOf,
  atInstant,
  isRaining,
  RAIN,
  conditionText,
  down,
  downIn,
  failuresIn,
  scenarioText,
  upstreamDown,
  upstreamDownIn,
} from './failure-scenario'
export type { Condition, FailureScenario } from './failure-scenario'
