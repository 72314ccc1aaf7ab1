export { DARK, PLAN_FORMAT, PLAN_VERSION } from './plan'
export type {
  Brief,
  Building,
  CableRun,
  CopperCategory,
  Device,
  Equipment,
  Existing,
  FarSite,
  FibreGrade,
  StaticAssignment,
  Link,
  Medium,
  NeedLine,
  Network,
  OpticName,
  Plan,
  Port,
  PortMode,
  PortRef,
  Room,
  Span,
  Ssid,
  Weather,
} from './plan'
export { isEndpoint, isPublicKey, keyHolder } from './lines'
export type {
  IpsecEnd,
  IpsecLink,
  IpsecSuite,
  UplinkFacts,
  Cellular,
  Peer,
  PortForward,
  Probe,
  Tunnel,
  Uplink,
} from './lines'
export { LEAST_RSRP, LEAST_SINR, MOST_RSRP, MOST_SINR, parseApn, parseSim, signalOf } from './cellular'

export { uplinkMtu, tunnelRoom } from './mtu'

export type {
  Group,
  Intent,
  PairDefault,
  Policy,
  PolicyRoute,
  Protocol,
  Rule,
  Schedule,
  Selector,
  Service,
  ServiceEntry,
} from './rules'
export { expandPairDefaults, isPairRule } from './pairs'
export {
  byVlan,
  cableAt,
  canBeCalled,
  endAt,
  endsOf,
  farEnd,
  uplinkGroup,
  isHost,
  isRadio,
  isVlanAware,
  uplinksInOrder,
  membersOf,
  modelOf,
  nextUplink,
  peerNamed,
  prefixSix,
  uplinkShare,
  selectorKey,
  specOf,
  tags,
  typedSix,
  vidsOf,
  visitSelector,
} from './lookup'
export { defineStage, findPort, portKey } from './plan-index'
export type { IndexedPlan, NetworkHead, PlanIndex } from './plan-index'
export { createEngine, indexPlan } from './engine'
export type { Engine } from './engine'
export {
  AT,
  clockOf,
  DAY,
  DAY_NAMES,
  schedulesHolding,
  minuteOf,
  scheduleInstants,
  scheduleIntervals,
} from './schedules'

export { rebase, translateSource, mapApart, mapsOf, translateDestination } from './mapping'
export type { AddressMap } from './mapping'
export { applyChanges, changesBetween } from './change'
export type { Change, Json } from './change'
export {
  failableThings,
  firstFreeAddress,
  freshId,
  proposeNetwork,
  renumberVlan,
  turnedInto,
} from './propose'
export { checkCharacter, makeSerial, parseSerial } from './serial'
export type { SerialKind } from './serial'
export { MODELS, compareVersions, modelNamed, namesIn, portGroupsByName } from './catalogue'
export type { DeviceKind, Factory, Model, PoeLoad, PoeSource, PortGroup } from './product'
export {
  BLANK_BRIEF,
  BLANK_CELLULAR,
  BLANK_FACTS,
  BLANK_FIXED,
  BLANK_IPSEC,
  BLANK_LINK,
  BLANK_NETWORK,
  BLANK_PORT,
  BLANK_SITE,
  BLANK_UPLINK,
  upgradePlan,
  USUAL_NAME,
} from './upgrade'
export { layAllotments, moveNetwork, placeNetwork, proposeSubnets } from './allot'
export type { Allotment } from './allot'
export { addressInfrastructure, layTemplate, portsOfModel, setPorts, spanOf, templateFrom } from './bulk'
export {
  addDevice,
  addUplink,
  addPeer,
  addTunnel,
  blankPlan,
  connect,
  disconnect,
  portNamed,
  removeDevice,
  removeUplink,
  USUAL_SERVICES,
} from './wire'
