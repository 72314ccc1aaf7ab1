export { DARK, PLAN_FORMAT, PLAN_VERSION } from './plan'
export type {
  Brief, Building, CableRun, CopperCategory, Device, DhcpOptions, Equipment, Existing, FarSite, FibreGrade, Fixed, Intent, LineFacts, Link,
  Medium, NeedLine, Network, OpticName, Peer, Plan, Policy, PolicyRoute, Port, PortForward, PortMode, PortRef, PortTemplate, Probe, Protocol, Room, Rule, Selector, Service, ServiceEntry,
  SiteFacts, Span, Ssid, StaticRoute, TextRange, Tunnel, Uplink, Weather,
} from './plan'
export { endsOf, farEnd, findPort, indexPlan, isEnd, isRadio, isVlanAware, modelOf, portKey, specOf, tags, vidsOf } from './lookup'
export type { PlanIndex } from './lookup'
export { applyChanges, changesBetween } from './change'
export type { Change, Json } from './change'
export { firstFreeAddress, freshId, proposeNetwork, renumberVlan, turnedInto } from './propose'
export { checkCharacter, makeSerial, parseSerial } from './serial'
export type { SerialKind } from './serial'
export { MODELS, compareVersions, modelNamed, namesIn, portSpec } from './catalogue'
export type { DeviceKind, Factory, Light, Model, PoeLoad, PoeSource, PortGroup } from './product'
export { BLANK_BRIEF, BLANK_FACTS, BLANK_LINK, BLANK_NETWORK, BLANK_PORT, BLANK_SITE, BLANK_UPLINK, upgradePlan } from './upgrade'
export { layAllotments, moveNetwork, networkIn, placeNetwork, proposeSubnets } from './allot'
export type { Allotment, AllotOptions } from './allot'
export { addressInfrastructure, layTemplate, portsOfModel, setPorts, spanOf, templateFrom } from './bulk'
export { addDevice, addLine, blankPlan, connect, disconnect, portNamed, removeDevice, removeLine, USUAL_SERVICES } from './wire'
export type { NewDevice } from './wire'
