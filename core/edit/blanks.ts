// Question: what does a new thing of a plan say before anybody has said more?
// Method: one constant for each kind of thing; what nobody has found out is null.
// Source: beside each value; where none is named, common practice without a source.
import type {
  Brief,
  Building,
  SiteFacts,
  Cellular,
  IpsecEnd,
  Link,
  Network,
  Port,
  RadioEndSettings,
  RadioSettings,
  SsidSettings,
  StaticAssignment,
  Uplink,
  UplinkFacts,
  WifiFacts,
  WorkFacts,
} from '#core/schema'

export const BLANK_END: RadioEndSettings = {
  antennaM: null,
  powerDbm: null,
  gainDbi: null,
  feederDb: null,
  role: null,
  readDbm: null,
  seen: '',
  protection: '',
  solar: { panelW: null, sunHours: null, batteryWh: null, drawW: null },
  asSet: {
    mhz: null,
    widthMhz: null,
    networkName: '',
    security: null,
    mode: null,
    keyAsGiven: null,
    address: '',
    mask: '',
    gateway: '',
  },
  survey: { readDbm: null, gainDbi: null },
  mounting: { dishM: null, mastM: null, footM: null },
}
/** Left over the least sensitivity: 10 dB, common practice without a source. */
export const BLANK_RADIO: RadioSettings = {
  mhz: null,
  widthMhz: null,
  networkName: '',
  security: null,
  gustMps: null,
  generation: null,
  streams: null,
  rangeSetM: null,
  neededMbps: null,
  polarization: 'vertical',
  rainMmPerHour: null,
  marginDb: 10,
  ends: { a: BLANK_END, b: BLANK_END },
  profile: [],
}
/** Where a building is, before anybody has measured. */
export const BLANK_PLACE: Pick<Building, 'position' | 'grid' | 'groundM'> = {
  position: null,
  grid: null,
  groundM: null,
}
export const BLANK_BRIEF: Brief = {
  buildings: [],
  spans: [],
  rooms: [],
  needs: [],
  far: [],
  existing: [],
  equipment: [],
  otherWay: '',
}
export const BLANK_SITE: Omit<SiteFacts, 'name' | 'supernet'> = {
  prefix6: null,
  subnetPolicy: 'octet',
  country: '',
  labelRule: '{n:3} {from}-{fromPort} {to}-{toPort}',
  upsWh: null,
  upsEfficiency: 0.9,
  pricePerKwh: 0.3,
  currency: 'EUR',
  poeHeadroomPct: 10,
  mostOutageS: null,
  mostFalseAlarms: null,
  toldTo: '',
}
/** Eight hours: half a working day past the last sign of a client. */
export const BLANK_NETWORK: Pick<
  Network,
  | 'relayTo'
  | 'exclusions'
  | 'leaseS'
  | 'options'
  | 'growthPct'
  | 'arrivalsPerH'
  | 'stayH'
  | 'pinned'
  | 'prefix6'
  | 'mode6'
> = {
  relayTo: null,
  exclusions: [],
  leaseS: 28_800,
  options: { dns: [], ntp: [], domain: '', controller: null },
  growthPct: 0,
  arrivalsPerH: null,
  stayH: null,
  pinned: false,
  prefix6: null,
  mode6: 'off',
}
export const BLANK_PORT: Omit<Port, 'id' | 'name' | 'mode'> = { speedMbps: null, optic: null, poe: 'auto' }
export const BLANK_LINK: Pick<Link, 'lag'> = { lag: null }
export const BLANK_CELLULAR: Cellular = {
  sim: null,
  apn: null,
  antennas: null,
  antennasAt: null,
  rsrpDbm: null,
  sinrDb: null,
  pricePerMonth: null,
  pricePerGb: null,
}
export const BLANK_FACTS: UplinkFacts = {
  credentialsAt: null,
  tagKnown: false,
  pcp: null,
  macLock: null,
  lockedMac: null,
  linkSpeed: null,
  capGb: null,
  outsideKnown: false,
  address: null,
  gateway: null,
  dns: [],
  modem: null,
  cellular: null,
  portEnabled: false,
  modemForwards: null,
  delegated6: null,
  routed4: [],
}
/** One target, asked every five seconds and given up after four: as many gateways come. */
export const BLANK_UPLINK: Pick<
  Uplink,
  | 'weight'
  | 'probe'
  | 'standby'
  | 'bringUpS'
  | 'holdDownS'
  | 'sharedRisks'
  | 'lossPct'
  | 'availablePct'
  | 'usualGbPerDay'
> = {
  weight: 1,
  probe: null,
  standby: 'hot',
  bringUpS: 0,
  holdDownS: 0,
  sharedRisks: [],
  lossPct: 1,
  availablePct: null,
  usualGbPerDay: null,
}
/** What RFC 8221 and RFC 8247 advise today. */
export const BLANK_IPSEC: IpsecEnd = {
  identity: '',
  address: '',
  subnets: [],
  ike: {
    encryption: ['AES_GCM_16/256', 'AES_CBC/256'],
    integrity: ['HMAC_SHA2_256_128'],
    prf: ['HMAC_SHA2_256'],
    groups: [19, 14],
  },
  esp: { encryption: ['AES_GCM_16/256'], integrity: [], prf: [], groups: [19] },
  ikeLifeS: 86_400,
  espLifeS: 28_800,
  dpdS: 30,
  auth: 'psk',
  starts: false,
}
export const BLANK_WIFI: WifiFacts = { radios: [], placements: [], foreign: [] }
/** Two devices at once fit on a small bench: common practice without a source. */
export const BLANK_WORK: WorkFacts = {
  startDate: null,
  timeZone: '',
  people: [],
  benchPorts: 2,
  benchPlace: '',
  journeys: [],
  cutOver: null,
  windLimitMps: null,
  durations: [],
  leftOut: [],
  adjustments: [],
}
/** An SSID of which nobody has said how it is secured. */
export const BLANK_SSID_SETTINGS: SsidSettings = {
  security: null,
  bands: ['2.4', '5', '6'],
  hidden: false,
  leastMbps: null,
  steering: false,
  portal: null,
  wps: false,
  macList: false,
  hours: null,
}
export const BLANK_FIXED: Pick<StaticAssignment, 'mask' | 'gateway' | 'mac' | 'ip6'> = {
  mask: null,
  gateway: null,
  mac: null,
  ip6: null,
}

/**
 * A name kept by dynamic DNS is usually looked after every five minutes and remembered for one (common
 * practice).
 */
export const USUAL_NAME = { nameEveryS: 300, nameTtlS: 60 }
