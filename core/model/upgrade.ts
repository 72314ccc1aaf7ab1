// Question: what does a plan of an older version say in the words of today?
// Method: what a later version added is filled with what the older one meant by not saying it.
// Source: docs/file-formats.md, which lists the versions.
import type { Cellular, IpsecEnd, UplinkFacts, Uplink } from './lines'
import { separateIds } from './separate-ids'
import {
  PLAN_VERSION,
  type Brief,
  type StaticAssignment,
  type Link,
  type Network,
  type Port,
  type SiteFacts,
} from './plan'

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
  modemForwards: false,
  delegated6: null,
}
/** One target, asked every five seconds and given up after four: as many gateways come. */
export const BLANK_UPLINK: Pick<
  Uplink,
  | 'weight'
  | 'probe'
  | 'standby'
  | 'bringUpS'
  | 'holdDownS'
  | 'fates'
  | 'lossPct'
  | 'availablePct'
  | 'usualGbPerDay'
> = {
  weight: 1,
  probe: null,
  standby: 'hot',
  bringUpS: 0,
  holdDownS: 0,
  fates: [],
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
export const BLANK_FIXED: Pick<StaticAssignment, 'mask' | 'gateway' | 'mac' | 'ip6'> = {
  mask: null,
  gateway: null,
  mac: null,
  ip6: null,
}

type Fields = Readonly<Record<string, unknown>>
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
/** Each item of a list with a change; anything else is left as it is, for the schema to refuse. */
const each = (list: unknown, make: (item: Fields) => Fields): unknown =>
  Array.isArray(list) ? list.map((item: unknown) => (isFields(item) ? make(item) : item)) : list

function fromFirst(plan: Fields): Fields {
  return {
    ...plan,
    version: 2,
    site: isFields(plan['site']) ? { ...BLANK_SITE, ...plan['site'] } : plan['site'],
    brief: BLANK_BRIEF,
    models: [],
    templates: [],
    networks: each(plan['networks'], (network) => ({
      ...BLANK_NETWORK,
      ...network,
      fixed: each(network['fixed'], (f) => ({ mac: null, ...f })),
    })),
    devices: each(plan['devices'], (device) => ({
      mains: false,
      stpPriority: null,
      ...device,
      ports: each(device['ports'], (p) => ({ ...BLANK_PORT, ...p })),
    })),
    links: each(plan['links'], (link) => ({
      ...BLANK_LINK,
      ...link,
      medium:
        isFields(link['medium']) && link['medium']['kind'] === 'fibre'
          ? { run: 'between', ...link['medium'] }
          : link['medium'],
    })),
    uplinks: each(plan['uplinks'], (u) => ({ facts: { ...BLANK_FACTS }, ...u })),
  }
}

function fromSecond(plan: Fields): Fields {
  return {
    ...plan,
    version: 3,
    site: isFields(plan['site'])
      ? { mostOutageS: null, mostFalseAlarms: null, ...plan['site'] }
      : plan['site'],
    policyRoutes: [],
    forwards: [],
    tunnels: [],
    uplinks: each(plan['uplinks'], (uplink) => ({
      ...BLANK_UPLINK,
      ...uplink,
      facts: isFields(uplink['facts']) ? { modemForwards: false, ...uplink['facts'] } : uplink['facts'],
    })),
    routes: each(plan['routes'], (r) => ({ metric: 0, ...r })),
  }
}

function fromThird(plan: Fields): Fields {
  return {
    ...plan,
    version: 4,
    ipsec: [],
    forwards: each(plan['forwards'], (f) => ({ hairpin: false, ...f })),
    uplinks: each(plan['uplinks'], (uplink) => ({
      ...uplink,
      facts: isFields(uplink['facts']) ? { delegated6: null, ...uplink['facts'] } : uplink['facts'],
    })),
    policies: each(plan['policies'], (policy) => ({
      ...policy,
      rules: each(policy['rules'], (r) => ({ log: false, ...r })),
    })),
  }
}

/**
 * A name kept by dynamic DNS is usually looked after every five minutes and remembered for one (common
 * practice).
 */
export const USUAL_NAME = { nameEveryS: 300, nameTtlS: 60 }

function fromFourth(plan: Fields): Fields {
  return {
    ...plan,
    version: 5,
    devices: each(plan['devices'], (device) => ({
      ...device,
      ports: each(device['ports'], (policy) => ({
        ...policy,
        mode:
          isFields(policy['mode']) && policy['mode']['mode'] === 'routed'
            ? { address6: null, ...policy['mode'] }
            : policy['mode'],
      })),
    })),
    site: isFields(plan['site']) ? { toldTo: '', ...plan['site'] } : plan['site'],
    intents: each(plan['intents'], (i) => ({ log: false, ...i })),
    tunnels: each(plan['tunnels'], (tunnel) => ({
      address6: null,
      ...USUAL_NAME,
      ...tunnel,
      peers: each(tunnel['peers'], (p) => ({ downMbps: null, upMbps: null, ...p })),
    })),
  }
}

function fromFifth(plan: Fields): Fields {
  return {
    ...plan,
    version: 6,
    schedules: [],
    policies: each(plan['policies'], (policy) => ({
      ...policy,
      rules: each(policy['rules'], (r) => ({ when: null, ...r })),
    })),
    intents: each(plan['intents'], (i) => ({ when: null, ...i })),
    uplinks: each(plan['uplinks'], (u) => ({ weight: 1, ...u })),
    tunnels: each(plan['tunnels'], (tunnel) => ({
      mapped: [],
      ...tunnel,
      peers: each(tunnel['peers'], (p) => ({ next: null, ...p })),
    })),
  }
}

function fromSixth(plan: Fields): Fields {
  const known = (facts: Fields) => ({
    ...facts,
    cellular: facts['cellular'] === true ? { ...BLANK_CELLULAR } : null,
  })
  return {
    ...plan,
    version: 7,
    groups: [],
    policies: each(plan['policies'], (p) => ({ pairs: [], ...p })),
    uplinks: each(plan['uplinks'], (uplink) => ({
      ...uplink,
      facts: isFields(uplink['facts']) ? known(uplink['facts']) : uplink['facts'],
    })),
    networks: each(plan['networks'], (network) => ({
      ...network,
      fixed: each(network['fixed'], (f) => ({ ip6: null, ...f })),
    })),
  }
}

/** Ids of what can fail are unique across a plan. */
const fromSeventh = (plan: Fields): Fields => ({ ...separateIds(plan), version: 8 })

/** A plan of any version known here, as today's; its parts are checked by the schema, not here. */
export function upgradePlan(plan: Fields): Fields {
  let now = plan
  if (now['version'] === 1) now = fromFirst(now)
  if (now['version'] === 2) now = fromSecond(now)
  if (now['version'] === 3) now = fromThird(now)
  if (now['version'] === 4) now = fromFourth(now)
  if (now['version'] === 5) now = fromFifth(now)
  if (now['version'] === 6) now = fromSixth(now)
  if (now['version'] === 7) now = fromSeventh(now)
  return now['version'] === PLAN_VERSION ? now : plan
}
