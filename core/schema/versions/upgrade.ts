// Question: what does a plan of an older version say in the words of today?
// Method: one step a version, frozen: it owns the shape it reads and the values it writes, and is not changed
// when today's defaults change.
// What a later version added is filled with what the older one meant by not saying it.
// Source: docs/file-formats.md, which lists the versions; a stored plan of each stands beside the tests.
import { PLAN_VERSION } from '#core/format'
import {
  fromEleventh,
  fromFifteenth,
  fromFourteenth,
  fromSeventeenth,
  fromSixteenth,
  fromTenth,
  fromTwelfth,
} from './air'
import { each, isFields, within, type Fields } from './document'
import { withPrintableTexts } from './printable'
import { withoutDanglingReferences } from './references'
import { separateIds } from './separate-ids'

/** What version 2 took for meant where version 1 said nothing. */
const SITE_2 = {
  prefix6: null,
  subnetPolicy: 'octet',
  country: '',
  labelRule: '{n:3} {from}-{fromPort} {to}-{toPort}',
  upsWh: null,
  upsEfficiency: 0.9,
  pricePerKwh: 0.3,
  currency: 'EUR',
  poeHeadroomPct: 10,
}
const BRIEF_2 = {
  buildings: [],
  spans: [],
  rooms: [],
  needs: [],
  far: [],
  existing: [],
  equipment: [],
  otherWay: '',
}
const NETWORK_2 = {
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
const PORT_2 = { speedMbps: null, optic: null, poe: 'auto' }
const FACTS_2 = {
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
  cellular: false,
  portEnabled: false,
}

function fromFirst(plan: Fields): Fields {
  return {
    ...plan,
    version: 2,
    site: within(plan['site'], (fields) => ({ ...SITE_2, ...fields })),
    brief: BRIEF_2,
    models: [],
    templates: [],
    networks: each(plan['networks'], (network) => ({
      ...NETWORK_2,
      ...network,
      fixed: each(network['fixed'], (f) => ({ mac: null, ...f })),
    })),
    devices: each(plan['devices'], (device) => ({
      mains: false,
      stpPriority: null,
      ...device,
      ports: each(device['ports'], (p) => ({ ...PORT_2, ...p })),
    })),
    links: each(plan['links'], (link) => ({
      lag: null,
      ...link,
      medium:
        isFields(link['medium']) && link['medium']['kind'] === 'fibre'
          ? { run: 'between', ...link['medium'] }
          : link['medium'],
    })),
    uplinks: each(plan['uplinks'], (u) => ({ facts: FACTS_2, ...u })),
  }
}

const UPLINK_3 = {
  probe: null,
  standby: 'hot',
  bringUpS: 0,
  holdDownS: 0,
  fates: [],
  lossPct: 1,
  availablePct: null,
  usualGbPerDay: null,
}

function fromSecond(plan: Fields): Fields {
  return {
    ...plan,
    version: 3,
    site: within(plan['site'], (fields) => ({ mostOutageS: null, mostFalseAlarms: null, ...fields })),
    policyRoutes: [],
    forwards: [],
    tunnels: [],
    uplinks: each(plan['uplinks'], (uplink) => ({
      ...UPLINK_3,
      ...uplink,
      facts: within(uplink['facts'], (fields) => ({ modemForwards: false, ...fields })),
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
      facts: within(uplink['facts'], (fields) => ({ delegated6: null, ...fields })),
    })),
    policies: each(plan['policies'], (policy) => ({
      ...policy,
      rules: each(policy['rules'], (r) => ({ log: false, ...r })),
    })),
  }
}

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
    site: within(plan['site'], (fields) => ({ toldTo: '', ...fields })),
    intents: each(plan['intents'], (i) => ({ log: false, ...i })),
    tunnels: each(plan['tunnels'], (tunnel) => ({
      address6: null,
      nameEveryS: 300,
      nameTtlS: 60,
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

const CELLULAR_7 = {
  sim: null,
  apn: null,
  antennas: null,
  antennasAt: null,
  rsrpDbm: null,
  sinrDb: null,
  pricePerMonth: null,
  pricePerGb: null,
}

function fromSixth(plan: Fields): Fields {
  const known = (facts: Fields) => ({
    ...facts,
    cellular: facts['cellular'] === true ? CELLULAR_7 : null,
  })
  return {
    ...plan,
    version: 7,
    groups: [],
    policies: each(plan['policies'], (p) => ({ pairs: [], ...p })),
    uplinks: each(plan['uplinks'], (uplink) => ({
      ...uplink,
      facts: within(uplink['facts'], known),
    })),
    networks: each(plan['networks'], (network) => ({
      ...network,
      fixed: each(network['fixed'], (f) => ({ ip6: null, ...f })),
    })),
  }
}

/** Ids of what can fail are unique across a plan. */
const fromSeventh = (plan: Fields): Fields => ({ ...separateIds(plan), version: 8 })

/** Every text is one printable line. */
const fromEighth = (plan: Fields): Fields => ({ ...withPrintableTexts(plan), version: 9 })

/** Fields by the names of the trade; what a provider routes here, and how far client isolation reaches. */
function fromNinth(plan: Fields): Fields {
  const renamed = (fields: Fields, old: string, name: string): Fields => {
    const { [old]: value, ...rest } = fields
    return { ...rest, [name]: value }
  }
  return {
    ...withoutDanglingReferences(plan),
    version: 10,
    brief: within(plan['brief'], (brief) => ({
      ...brief,
      existing: each(brief['existing'], (one) => renamed(one, 'fate', 'disposition')),
    })),
    models: each(plan['models'], (model) => ({
      isolation: model['kind'] === 'access-point' ? 'network' : null,
      ...model,
    })),
    devices: each(plan['devices'], (device) => renamed(device, 'wants', 'homeNetworkId')),
    uplinks: each(plan['uplinks'], (uplink) => ({
      ...renamed(uplink, 'fates', 'sharedRisks'),
      facts: within(uplink['facts'], (facts) => ({ routed4: [], ...facts })),
    })),
  }
}

const WORK_14 = {
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

/** Who works when, and what was changed of the computed run sheet. */
const fromThirteenth = (plan: Fields): Fields => ({ work: WORK_14, ...plan, version: 14 })

/** From version 1 to 2, from 2 to 3, and so on. */
const STEPS: readonly ((plan: Fields) => Fields)[] = [
  fromFirst,
  fromSecond,
  fromThird,
  fromFourth,
  fromFifth,
  fromSixth,
  fromSeventh,
  fromEighth,
  fromNinth,
  fromTenth,
  fromEleventh,
  fromTwelfth,
  fromThirteenth,
  fromFourteenth,
  fromFifteenth,
  fromSixteenth,
  fromSeventeenth,
]

/** A plan of any version known here, as today's; its parts are checked by the schema, not here. */
export function upgradePlan(plan: Fields): Fields {
  const from = STEPS.findIndex((_, i) => plan['version'] === i + 1)
  if (from < 0) return plan
  const now = STEPS.slice(from).reduce((document, step) => step(document), plan)
  return now['version'] === PLAN_VERSION ? now : plan
}
