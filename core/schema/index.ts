export { line } from './common'
export type {
  Frozen,
  BuildingId,
  DeviceId,
  Draft,
  LinkId,
  NetworkId,
  PeerId,
  PersonId,
  PortId,
  RuleId,
  ScheduleId,
  ServiceId,
  SsidId,
  TextRange,
  TunnelId,
  UplinkId,
} from './common'
export type { Brief, Building, Equipment, Existing, FarSite, NeedLine, Position, Room, Span } from './brief'
export type {
  CableRun,
  CopperCategory,
  Device,
  FibreGrade,
  Link,
  Medium,
  OpticName,
  Port,
  PortMode,
  PortRef,
  PortTemplate,
} from './device'
export type { Network, Ssid, StaticAssignment } from './network'
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
} from './policy'
export type { DeviceKind, Factory, Model, PoeLoad, PoeSource, PortGroup } from './product'
export type {
  LinkGeneration,
  LinkSecurity,
  LinkWidth,
  Mounting,
  RadioEndSettings,
  RadioSettings,
  SolarSupply,
  SurveyPoint,
} from './radio'
export type {
  Beam,
  AccessRadio,
  Band,
  ChannelWidth,
  ForeignNetwork,
  Generation,
  Outline,
  Placement,
  SsidSettings,
  WallKind,
  WifiFacts,
} from './wifi'
export type { IpsecEnd, IpsecLink, IpsecSuite, Peer, Tunnel } from './tunnel'
export type { Cellular, PortForward, Probe, StaticRoute, Uplink, UplinkFacts } from './uplink'
export type { ActivityKind, Adjustment, Journey, OwnDuration, Person, Skill, WorkFacts } from './work'
export { planSchema } from './plan'
export type { Plan, SiteFacts } from './plan'
export { upgradePlan } from './versions/upgrade'
