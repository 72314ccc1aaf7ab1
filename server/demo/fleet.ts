import { BLANK_BRIEF, BLANK_SITE, BLANK_UPLINK, BLANK_WIFI, BLANK_WORK } from '#core/edit'
import { PLAN_FORMAT, PLAN_VERSION } from '#core/format'
import type { Plan } from '#core/schema'
import {
  access,
  cat6,
  device,
  facts,
  hosts,
  ssid,
  inNetwork,
  inside,
  intent,
  internet,
  line,
  link,
  network,
  plain,
  ports,
  radio,
  row,
  rule,
  SERVICES,
  toGateway,
  trunk,
  wan,
  wifi,
} from './build'

// Two more invented sites of the fleet: one that tunnels lead to, and one that stands behind somebody else's
// router.

const COMMON = {
  format: PLAN_FORMAT,
  version: PLAN_VERSION,
  models: [],
  templates: [],
  services: SERVICES,
  groups: [],
  schedules: [],
  routes: [],
  policyRoutes: [],
  forwards: [],
  tunnels: [],
  ipsec: [],
} as const
const KNOWN = { tagKnown: true, macLock: 'no', linkSpeed: 'auto', capGb: 0, outsideKnown: true } as const
const out = (from: string) => [
  rule(`r-${from}`, inNetwork(from), internet, [], 'Out'),
  rule('r-in', inside, toGateway, ['dns', 'ping'], 'Names', 'input'),
]
const meant = (from: string) => [
  intent(
    `i-${from}`,
    inNetwork(from),
    internet,
    [],
    `${from === 'office' ? 'The office' : 'The till'} reaches the internet`,
  ),
  intent('i-names', inside, toGateway, ['dns', 'ping'], 'Everyone asks for names'),
]

/** The Mainland Office: a gateway, a switch, an access point. */
export const carrowPlan = (): Plan => ({
  ...COMMON,
  site: {
    ...BLANK_SITE,
    name: 'Carrow Mainland Office',
    supernet: '10.61.16.0/22',
    country: 'XG',
    subnetPolicy: 'best-fit',
  },
  brief: {
    ...BLANK_BRIEF,
    otherWay: 'the neighbours’ uplink',
    far: [{ id: 'gullhaven', name: 'Gullhaven', subnets: ['10.61.0.0/20'], tunnel: '10.61.20.0/29' }],
  },
  networks: [
    network('office', 10, 'Office', '10.61.16.0/24', '10.61.16.1', ['10.61.16.50', '10.61.16.199'], 20),
  ],
  devices: [
    device('internet', 'Internet', 'cloud', '', 'outside', null, ports({ 1: plain })),
    device('gateway', 'Gateway', 'gateway', 'G4', 'Cupboard', 'office', ports({ 1: wan, 3: trunk(10) })),
    device(
      'switch',
      'Switch',
      'switch',
      'S8P',
      'Cupboard',
      null,
      row(10, { 1: trunk(10), 2: trunk(10), 3: access(10), 4: access(10) }),
    ),
    device('ap', 'AP', 'access-point', 'A2', 'Office', null, ports({ 1: trunk(10), radio })),
    hosts('desks', 'Desks', 'Office', 'office', 2),
    hosts('laptops', 'Laptops', 'Office', 'office', 12, 1),
  ],
  links: [
    link('internet:1', 'gateway:1', line),
    link('gateway:3', 'switch:1', cat6(1)),
    link('switch:2', 'ap:1', cat6(18)),
    link('switch:3', 'desks:1', cat6(9)),
    link('switch:4', 'desks:2', cat6(12)),
    link('ap:radio', 'laptops:1', wifi('office-ssid')),
  ],
  ssids: [
    ssid(
      { id: 'office-ssid', name: 'Lowwater', networkId: 'office', isolation: false, apIds: ['ap'] },
      { security: 'wpa2-wpa3', leastMbps: 6 },
    ),
  ],
  wifi: BLANK_WIFI,
  work: BLANK_WORK,
  uplinks: [
    {
      id: 'line',
      name: 'Line',
      deviceId: 'gateway',
      portId: 'p1',
      kind: 'static',
      tag: null,
      priority: 1,
      outside: 'own',
      downMbps: 200,
      upMbps: 50,
      ...BLANK_UPLINK,
      facts: facts({
        ...KNOWN,
        modem: 'bridge',
        address: '198.51.100.10/29',
        gateway: '198.51.100.9',
        dns: ['198.51.100.1'],
      }),
    },
  ],
  policies: [{ deviceId: 'gateway', forward: 'drop', input: 'drop', rules: out('office'), pairs: [] }],
  intents: meant('office'),
})

/**
 * The pop-up stall: its line is a socket of the harbour's network, so that two routers translate in a row.
 */
export const quaysidePlan = (): Plan => ({
  ...COMMON,
  site: {
    ...BLANK_SITE,
    name: 'Quayside Pop-up Stall',
    supernet: '192.168.61.0/24',
    subnetPolicy: 'best-fit',
  },
  brief: { ...BLANK_BRIEF, otherWay: 'a telephone as hotspot' },
  networks: [
    network('till', 10, 'Till', '192.168.61.0/26', '192.168.61.1', ['192.168.61.20', '192.168.61.60'], 6),
  ],
  devices: [
    device('internet', 'Internet', 'cloud', '', 'outside', null, ports({ 1: plain })),
    device('gateway', 'Stall router', 'gateway', '', 'Stall', 'till', ports({ 1: wan, 2: access(10) })),
    hosts('register', 'Till', 'Stall', 'till', 1),
  ],
  links: [link('internet:1', 'gateway:1', line), link('gateway:2', 'register:1', cat6(2))],
  ssids: [],
  wifi: BLANK_WIFI,
  work: BLANK_WORK,
  uplinks: [
    {
      id: 'harbour',
      name: 'Harbour socket',
      deviceId: 'gateway',
      portId: 'p1',
      kind: 'dhcp',
      tag: null,
      priority: 1,
      outside: 'shared',
      downMbps: 50,
      upMbps: 10,
      ...BLANK_UPLINK,
      facts: facts({ ...KNOWN, modem: 'routing', address: '10.20.30.41/24' }),
    },
  ],
  policies: [{ deviceId: 'gateway', forward: 'drop', input: 'drop', rules: out('till'), pairs: [] }],
  intents: meant('till'),
})
