import {
  BLANK_BRIEF,
  BLANK_SITE,
  BLANK_UPLINK,
  makeSerial,
  PLAN_FORMAT,
  PLAN_VERSION,
  USUAL_NAME,
  type Brief,
  type Device,
  type IpsecLink,
  type Link,
  type Network,
  type Peer,
  type Plan,
  type Port,
  type Selector,
  type Tunnel,
  type Uplink,
} from '#core/model'
import {
  access,
  cat6,
  device,
  facts,
  fibre,
  fixed,
  hosts,
  inNetwork,
  inside,
  intent,
  internet,
  ipsecEnd,
  line,
  link,
  network,
  plain,
  ports,
  radio,
  row,
  rule,
  SERVICES,
  theDevice,
  toGateway,
  trunk,
  wan,
  wifi,
} from './build'

// The Gullhaven Tidal Observatory: an invented marine research station on an invented coast.

const LAB = 'Laboratory'
const BOAT = 'Boathouse'
const VISIT = 'Visitor room'
const SKERRY = 'Skerry hut'

/** What differs between the copy with mistakes and the clean one. */
interface Variant {
  readonly name: string
  readonly clean: boolean
}

function networks({ clean }: Variant): Network[] {
  const infrastructure = [
    fixed('10.61.0.2', 'Laboratory switch', 'lab-switch'),
    fixed('10.61.0.4', 'Skerry switch', 'skerry-switch'),
    fixed('10.61.0.5', 'Controller', 'controller'),
    fixed('10.61.0.11', 'Laboratory AP 1', 'lab-ap-1', 'reserved'),
    fixed('10.61.0.12', 'Laboratory AP 2', 'lab-ap-2', 'reserved'),
    fixed('10.61.0.13', 'Boathouse AP', 'boat-ap', 'reserved'),
    fixed('10.61.0.14', 'Visitor AP', 'visit-ap', 'reserved'),
    fixed('10.61.0.31', 'Skerry bridge, end A', 'bridge-a'),
    fixed('10.61.0.32', 'Skerry bridge, end B', 'bridge-b'),
    ...(clean ? [fixed('10.61.0.3', 'Boathouse switch', 'boat-switch')] : []),
  ]
  const given = [
    {
      ...network(
        'management',
        99,
        'Management',
        '10.61.0.0/24',
        '10.61.0.1',
        ['10.61.0.100', '10.61.0.199'],
        16,
        infrastructure,
      ),
      options: {
        dns: [],
        ntp: ['10.61.0.1'],
        domain: 'gullhaven.example',
        controller: { option: 143 as const, address: '10.61.0.5' },
      },
    },
    network('staff', 10, 'Staff', '10.61.1.0/24', '10.61.1.1', ['10.61.1.100', '10.61.1.219'], 38, [
      fixed('10.61.1.10', 'Admin desk', 'admin-desk', 'reserved'),
    ]),
    network('servers', 20, 'Servers', '10.61.2.0/26', '10.61.2.1', null, 6, [
      { ...fixed('10.61.2.10', 'File server', 'file-server'), ip6: 'fd61:6a11:c0de:20::10' },
      fixed('10.61.2.11', 'Tide-data server', 'tide-server'),
      fixed('10.61.2.12', 'Recorder', 'recorder'),
    ]),
    network(
      'instruments',
      30,
      'Instruments',
      '10.61.2.64/26',
      '10.61.2.65',
      ['10.61.2.80', '10.61.2.119'],
      21,
    ),
    network('cameras', 40, 'Cameras', '10.61.3.0/24', '10.61.3.1', ['10.61.3.50', '10.61.3.149'], 9),
    network('voice', 50, 'Voice', '10.61.4.0/24', '10.61.4.1', ['10.61.4.20', '10.61.4.99'], 8),
    // An open day brings 60 guests an hour who stay for three.
    {
      ...network('guests', 60, 'Guests', '10.61.6.0/23', '10.61.6.1', ['10.61.6.10', '10.61.7.254'], 180),
      leaseS: clean ? 10_800 : 28_800,
      arrivalsPerH: 60,
      stayH: 3,
    },
  ]
  return given.map((network) => ({
    ...network,
    prefix6: `fd61:6a11:c0de:${network.vlan}::/64`,
    mode6: 'slaac' as const,
    pinned: network.id === 'management',
  }))
}

const ALL = [10, 20, 30, 40, 50, 60] as const
const toBoathouse = trunk(99, 10, 30, 40, 60)
/** Ports with the light for the quay's fibre in one of them. */
const lit = (list: readonly Port[], portId: string): Port[] =>
  list.map((p) => (p.id === portId ? { ...p, optic: '1000BASE-LX10' } : p))

const fibreFacts = ({ clean }: Variant) =>
  facts({
    credentialsAt: 'sealed envelope, keeper’s safe',
    tagKnown: true,
    pcp: 0,
    macLock: clean ? 'no' : null,
    linkSpeed: 'auto',
    capGb: 0,
    outsideKnown: true,
    modem: 'bridge',
  })
/** Issued by nobody: country code 999 is unassigned (ITU-T E.164). */
const SIM = '8999901000000004213'
const cellularFacts = ({ clean }: Variant) =>
  facts({
    tagKnown: true,
    macLock: 'no',
    linkSpeed: 'auto',
    capGb: 200,
    outsideKnown: true,
    modem: 'bridge',
    cellular: {
      sim: SIM,
      apn: 'fixed.example',
      antennas: 2,
      antennasAt: 'on the Lab’s parapet, 6 m of feeder',
      rsrpDbm: -94,
      sinrDb: 11,
      pricePerMonth: 35,
      pricePerGb: 2,
    },
    portEnabled: clean,
    address: '100.64.12.9/30',
  })

/** Labels as they stand on the boxes; the Boathouse AP's nobody has read yet. */
const EQUIPMENT: readonly (readonly [deviceId: string, model: string])[] = [
  ['gateway', 'G4'],
  ['lab-switch', 'S24P'],
  ['lab-ap-1', 'A2'],
  ['lab-ap-2', 'A2'],
  ['boat-switch', 'S8P'],
  ['boat-ap', 'A2X'],
  ['visit-ap', 'A2'],
  ['bridge-a', 'B5'],
  ['bridge-b', 'B5'],
  ['skerry-switch', 'S8P'],
  ['controller', 'C1'],
  ['extender', 'E1'],
]
/** The serial of the n-th box of the station, and its board's. */
export const boxSerial = (prefix: 'GH' | 'GB', count: number): string =>
  makeSerial(prefix, `7A${String(count).padStart(2, '0')}K${(count * 7) % 10}R`)

function brief({ clean }: Variant): Brief {
  const known = clean ? EQUIPMENT : EQUIPMENT.filter(([deviceId]) => deviceId !== 'boat-ap')
  return {
    ...BLANK_BRIEF,
    buildings: [
      { id: 'lab', name: LAB },
      { id: 'boat', name: BOAT },
      { id: 'visit', name: VISIT },
      { id: 'skerry', name: SKERRY },
    ],
    spans: [
      { id: 'quay', a: 'lab', b: 'boat', distanceM: 140, crosses: 'ground' },
      { id: 'court', a: 'lab', b: 'visit', distanceM: 45, crosses: 'nothing' },
      ...(clean ? [{ id: 'sound', a: 'lab', b: 'skerry', distanceM: 3400, crosses: 'water' as const }] : []),
    ],
    rooms: [
      { id: 'office', name: 'Offices', buildingId: 'lab', people: 12 },
      { id: 'wet-lab', name: 'Wet laboratory', buildingId: 'lab', people: 6 },
      { id: 'cafe', name: 'Café', buildingId: 'visit', people: 60 },
    ],
    needs: [
      { id: 'n-staff', name: 'Staff', count: 30, growthPct: 25, vlan: 10, networkId: 'staff' },
      { id: 'n-guests', name: 'Guests', count: 180, growthPct: 0, vlan: 60, networkId: 'guests' },
      { id: 'n-cameras', name: 'Cameras', count: 6, growthPct: 50, vlan: 40, networkId: 'cameras' },
    ],
    far: [
      {
        id: 'mainland',
        name: 'Mainland Office, Carrow',
        subnets: ['10.61.16.0/22'],
        tunnel: '10.61.20.0/29',
      },
    ],
    existing: [
      { id: 'old-router', what: 'Provider’s router in the plant room', fate: 'replace' },
      { id: 'strip', what: '5-port switch in the visitor room', fate: 'keep' },
    ],
    equipment: known.map(([deviceId, model]) => {
      const count = EQUIPMENT.findIndex(([id]) => id === deviceId)
      return {
        id: `box-${deviceId}`,
        model,
        serial: boxSerial('GH', count),
        mac: `00-00-5E-00-53-${(16 + count).toString(16).toUpperCase()}`,
        deviceId,
      }
    }),
    otherWay: 'telephone as hotspot, charged and tried',
  }
}

function devices({ clean }: Variant): Device[] {
  const desks = Object.fromEntries(Array.from({ length: 12 }, (_, i) => [i + 1, access(10)]))
  return [
    device('internet', 'Internet', 'cloud', '', 'outside', null, ports({ 1: plain, 2: plain })),
    device('ont', 'Fibre terminal', 'modem', '', LAB, null, ports({ line: plain, lan: plain })),
    device('modem-5g', '5G modem', 'modem', '', LAB, null, ports({ line: plain, lan: plain })),
    device(
      'gateway',
      'Gateway',
      'gateway',
      'G4',
      LAB,
      'management',
      ports({ 1: wan, 2: wan, 3: access(99), 4: trunk(99, ...ALL) }),
    ),
    device('controller', 'Controller', 'controller', 'C1', LAB, 'management', ports({ 1: plain })),
    {
      ...device(
        'lab-switch',
        'Laboratory switch',
        'switch',
        'S24P',
        LAB,
        'management',
        lit(
          row(28, {
            ...desks,
            13: access(20),
            14: access(20),
            15: access(30),
            16: access(50),
            17: access(50),
            18: access(50),
            19: access(50),
            20: trunk(10, 60, 99),
            ...(clean ? { 27: toBoathouse } : { 21: toBoathouse }),
            22: clean ? trunk(99, 30, 40) : trunk(99, 30),
            23: trunk(99, 10, 60),
            24: trunk(99, 10, 60),
            25: trunk(99, ...ALL),
            26: access(20),
          }),
          clean ? 'p27' : '',
        ),
      ),
      stpPriority: 4096,
    },
    device(
      'bench-strip',
      'Bench strip',
      'unmanaged',
      'U10',
      LAB,
      null,
      row(10, Object.fromEntries(Array.from({ length: 10 }, (_, i) => [i + 1, plain]))),
    ),
    device(
      'lab-ap-1',
      'Laboratory AP 1',
      'access-point',
      'A2',
      LAB,
      'management',
      ports({ 1: trunk(99, 10, 60), radio }),
    ),
    device(
      'lab-ap-2',
      'Laboratory AP 2',
      'access-point',
      'A2',
      LAB,
      'management',
      ports({ 1: trunk(99, 10, 60), radio }),
    ),
    device(
      'boat-switch',
      'Boathouse switch',
      'switch',
      'S8P',
      BOAT,
      'management',
      lit(
        row(10, {
          ...(clean ? { 9: toBoathouse } : { 1: toBoathouse }),
          2: trunk(99, 10, 60),
          3: access(40),
          4: access(40),
          5: access(30),
          8: access(99),
        }),
        clean ? 'p9' : '',
      ),
    ),
    device(
      'boat-ap',
      'Boathouse AP',
      'access-point',
      'A2X',
      BOAT,
      'management',
      ports({ 1: trunk(99, 10, 60), radio }),
    ),
    device(
      'visit-strip',
      'Visitor room switch',
      'unmanaged',
      'U5',
      VISIT,
      null,
      row(5, { 1: plain, 2: plain, 3: plain, 4: plain, 5: plain }),
    ),
    device(
      'visit-power',
      'Visitor injector',
      'injector',
      'J30',
      VISIT,
      null,
      ports({ lan: plain, poe: plain }),
    ),
    device(
      'visit-ap',
      'Visitor AP',
      'access-point',
      'A2',
      VISIT,
      'management',
      ports({ 1: trunk(10, 60, 99), radio }),
    ),
    device('extender', 'Café extender', 'extender', 'E1', VISIT, null, ports({ up: plain, down: plain })),
    device(
      'bridge-a',
      'Skerry bridge, end A',
      'bridge-radio',
      'B5',
      LAB,
      'management',
      ports({ lan: plain, radio: plain }),
    ),
    device(
      'bridge-b',
      'Skerry bridge, end B',
      'bridge-radio',
      'B5',
      SKERRY,
      'management',
      ports({ lan: plain, radio: plain }),
    ),
    device(
      'skerry-switch',
      'Skerry switch',
      'switch',
      'S8P',
      SKERRY,
      'management',
      row(10, { 1: trunk(99, 30, 40), 2: access(40), 3: access(40), 4: access(40), 5: access(30) }),
    ),
    hosts('admin-desk', 'Admin desk', LAB, 'staff', 1),
    hosts('desks', 'Staff desks', LAB, 'staff', 11),
    hosts('file-server', 'File server', LAB, 'servers', 1),
    hosts('tide-server', 'Tide-data server', LAB, 'servers', 1),
    hosts('recorder', 'Recorder', LAB, 'servers', 1),
    hosts('lab-instruments', 'Lab instruments', LAB, 'instruments', 9),
    hosts('phones', 'Desk telephones', LAB, 'voice', 4, 4, 'T1'),
    hosts('staff-wifi', 'Staff on Wi-Fi', LAB, 'staff', 18, 3),
    hosts('guest-wifi', 'Guests', LAB, 'guests', 120, 4),
    hosts('cafe-guests', 'Café guests', VISIT, 'guests', 60, 1),
    hosts('ticket', 'Ticket terminal', VISIT, 'staff', 1),
    hosts('boat-cameras', 'Boathouse cameras', BOAT, 'cameras', 2, 2, 'K3'),
    hosts('tide-gauge', 'Tide gauge logger', BOAT, 'instruments', 1, 1, 'L1'),
    hosts('skerry-cameras', 'Skerry cameras', SKERRY, 'cameras', 3, 3, 'K3'),
    hosts('mast-logger', 'Weather mast logger', SKERRY, 'instruments', 1, 1, 'L1'),
  ]
}

function links({ clean }: Variant): Link[] {
  return [
    link('internet:1', 'ont:line', line),
    link('internet:2', 'modem-5g:line', line),
    link('ont:lan', 'gateway:1', cat6(2)),
    link('modem-5g:lan', 'gateway:2', cat6(6)),
    link('gateway:3', 'controller:1', cat6(1)),
    link('gateway:4', 'lab-switch:25', cat6(1)),
    link('lab-switch:1', 'admin-desk:1', cat6(18)),
    ...Array.from({ length: 11 }, (_, i) => link(`lab-switch:${i + 2}`, `desks:${i + 1}`, cat6(14 + 3 * i))),
    link('lab-switch:13', 'file-server:1', cat6(2)),
    link('lab-switch:14', 'tide-server:1', cat6(2)),
    link('lab-switch:26', 'recorder:1', cat6(2)),
    link('lab-switch:15', 'bench-strip:10', cat6(22)),
    ...Array.from({ length: 9 }, (_, i) => link(`bench-strip:${i + 1}`, `lab-instruments:${i + 1}`, cat6(3))),
    ...Array.from({ length: 4 }, (_, i) => link(`lab-switch:${i + 16}`, `phones:${i + 1}`, cat6(20 + 4 * i))),
    link('lab-switch:20', 'visit-strip:1', cat6(45, 'outdoor')),
    clean
      ? link('lab-switch:27', 'boat-switch:9', fibre('OS2', 140))
      : link('lab-switch:21', 'boat-switch:1', cat6(140, 'between')),
    link('lab-switch:22', 'bridge-a:lan', cat6(38, 'outdoor')),
    link('lab-switch:23', 'lab-ap-1:1', cat6(26)),
    link('lab-switch:24', 'lab-ap-2:1', cat6(41)),
    link('bridge-a:radio', 'bridge-b:radio', { kind: 'radio', lengthM: 3400 }),
    link('bridge-b:lan', 'skerry-switch:1', cat6(12, 'outdoor')),
    link('boat-switch:2', 'boat-ap:1', cat6(15)),
    link('boat-switch:3', 'boat-cameras:1', cat6(30, 'outdoor')),
    link('boat-switch:4', 'boat-cameras:2', cat6(34, 'outdoor')),
    link('boat-switch:5', 'tide-gauge:1', cat6(25, 'outdoor')),
    link('visit-strip:2', 'visit-power:lan', cat6(1)),
    link('visit-power:poe', 'visit-ap:1', cat6(8)),
    link('visit-strip:3', 'ticket:1', cat6(4)),
    link('visit-ap:radio', 'extender:up', wifi('guest-ssid')),
    link('extender:down', 'cafe-guests:1', wifi('guest-ssid')),
    ...['lab-ap-1', 'lab-ap-2', 'boat-ap', 'visit-ap'].map((ap, i) =>
      link(`${ap}:radio`, `guest-wifi:${i + 1}`, wifi('guest-ssid')),
    ),
    ...['lab-ap-1', 'lab-ap-2', 'boat-ap'].map((ap, i) =>
      link(`${ap}:radio`, `staff-wifi:${i + 1}`, wifi('staff-ssid')),
    ),
    link('skerry-switch:2', 'skerry-cameras:1', cat6(8, 'outdoor')),
    link('skerry-switch:3', 'skerry-cameras:2', cat6(9, 'outdoor')),
    link('skerry-switch:4', 'skerry-cameras:3', cat6(14, 'outdoor')),
    link('skerry-switch:5', 'mast-logger:1', cat6(10, 'outdoor')),
  ]
}

function rules({ clean }: Variant) {
  return [
    rule('r-guests', inNetwork('guests'), internet, [], 'Guests: the internet and nothing else'),
    rule(
      'r-tide',
      inNetwork('instruments'),
      theDevice('tide-server'),
      ['tide', 'ntp'],
      'Instruments deliver to the tide-data server',
    ),
    rule(
      'r-files',
      inNetwork('staff'),
      inNetwork('servers'),
      ['files', 'https', 'ping'],
      'Staff use the servers',
    ),
    rule('r-staff', inNetwork('staff'), internet, [], 'Staff use the internet'),
    rule(
      'r-admin',
      theDevice('admin-desk'),
      inNetwork('management'),
      ['ssh', 'https', 'ping'],
      'Only the admin desk manages',
    ),
    rule(
      'r-video',
      inNetwork('cameras'),
      theDevice('recorder'),
      ['video'],
      'Cameras deliver to their recorder',
    ),
    rule('r-voice', inNetwork('voice'), internet, ['calls', 'dns'], 'Telephones register outside'),
    rule(
      'r-servers',
      inNetwork('servers'),
      internet,
      ['web', 'dns', 'ntp'],
      'Servers fetch updates and time',
    ),
    rule(
      'r-manage',
      inNetwork('management'),
      internet,
      ['web', 'dns', 'ntp'],
      'Devices fetch firmware and time',
    ),
    rule(
      'r-office',
      inTunnel('mainland'),
      theDevice('tide-server'),
      ['tide', 'https'],
      'The Mainland Office reads the tide data',
    ),
    rule(
      'r-archive',
      inTunnel('mainland'),
      theDevice('recorder'),
      ['https'],
      'The camera archive, from the Mainland Office only',
    ),
    rule(
      'r-away',
      inTunnel('keeper-away'),
      inNetwork('management'),
      ['ssh', 'https', 'ping'],
      'The keeper manages from the road',
    ),
    rule(
      'r-road',
      { kind: 'tunnel', id: 'mainland-link' },
      theDevice('file-server'),
      ['files'],
      'Files for whoever is in the tunnel',
    ),
    ...(clean
      ? []
      : [
          rule(
            'r-tide-again',
            inNetwork('instruments'),
            theDevice('tide-server'),
            ['tide'],
            'Left over from the move',
          ),
        ]),
    rule('r-in', inside, toGateway, ['dns', 'ntp', 'ping'], 'Name and time service on the gateway', 'input'),
    rule(
      'r-in-admin',
      theDevice('admin-desk'),
      toGateway,
      ['ssh', 'https'],
      'The admin desk manages the gateway',
      'input',
    ),
  ]
}

const inTunnel = (id: string): Selector => ({ kind: 'peer', id })
/** One target on the copy with mistakes; two, both of which must be silent, on the clean one. */
const watched = ({
  clean,
}: Variant): Pick<Uplink, 'probe' | 'holdDownS' | 'fates' | 'usualGbPerDay' | 'availablePct'> => ({
  probe: {
    kind: 'icmp',
    targets: clean ? ['198.51.100.53', '203.0.113.53'] : ['198.51.100.53'],
    quorum: clean ? 2 : 1,
    everyS: 5,
    timeoutS: 1,
    misses: 3,
    returns: 4,
  },
  holdDownS: 60,
  fates: ['duct along the quay'],
  usualGbPerDay: 24,
  availablePct: 99.5,
})
const person = (id: string, name: string, ip: string, theirAllowed: readonly string[]): Peer => ({
  id,
  name,
  kind: 'person',
  publicKey: null,
  next: null,
  allowed: [`${ip}/32`],
  theirAllowed,
  endpoint: null,
  downMbps: null,
  upMbps: null,
  keepaliveS: null,
})
/** The harbour's office keeps a firewall of its own, which speaks IPsec. */
const HARBOUR: IpsecLink = {
  id: 'harbour',
  name: 'Harbour Office',
  deviceId: 'gateway',
  ours: ipsecEnd('gullhaven.example', 'vpn.gullhaven.example', ['10.61.2.0/24'], true),
  theirs: ipsecEnd('harbour.example', '198.51.100.30', ['10.62.4.0/24'], false),
}

const TUNNELS: readonly Tunnel[] = [
  {
    id: 'mainland-link',
    name: 'Mainland tunnel',
    deviceId: 'gateway',
    publicName: 'vpn.gullhaven.example',
    ...USUAL_NAME,
    address: '10.61.20.1/29',
    address6: null,
    listenPort: 51820,
    mtu: 1420,
    publicKey: null,
    mapped: [],
    peers: [
      // This side dials, so that it works over either line.
      {
        id: 'mainland',
        name: 'Mainland Office',
        kind: 'site',
        publicKey: null,
        next: null,
        allowed: ['10.61.20.2/32', '10.61.16.0/22'],
        theirAllowed: ['10.61.2.0/26', '10.61.20.1/32'],
        endpoint: 'vpn.carrow.example:51820',
        downMbps: 200,
        upMbps: 50,
        keepaliveS: 25,
      },
      person('keeper-away', 'Keeper on the road', '10.61.20.3', [
        '10.61.0.0/24',
        '10.61.2.0/26',
        '10.61.20.1/32',
      ]),
      person('surveyor', 'Surveyor on the road', '10.61.20.4', ['10.61.2.0/26']),
      person('boat-crew', 'Boat crew', '10.61.20.5', ['10.61.2.0/26']),
    ],
  },
]

function gullhaven(variant: Variant): Plan {
  return {
    format: PLAN_FORMAT,
    version: PLAN_VERSION,
    site: {
      ...BLANK_SITE,
      name: variant.name,
      supernet: '10.61.0.0/20',
      prefix6: 'fd61:6a11:c0de::/48',
      country: variant.clean ? 'XG' : '',
      upsWh: 860,
      pricePerKwh: 0.31,
      toldTo: 'Keeper',
    },
    brief: brief(variant),
    models: [],
    templates: [
      {
        id: 'desk-row',
        name: 'Desks and one uplink',
        model: 'S24P',
        ports: [
          { names: '1-12', mode: access(10) },
          { names: '25', mode: trunk(99, ...ALL) },
        ],
      },
    ],
    networks: networks(variant),
    devices: devices(variant),
    links: links(variant),
    ssids: [
      {
        id: 'staff-ssid',
        name: 'Tidewater',
        networkId: 'staff',
        isolation: false,
        apIds: ['lab-ap-1', 'lab-ap-2', 'boat-ap'],
      },
      {
        id: 'guest-ssid',
        name: 'Tidewater Visitors',
        networkId: 'guests',
        isolation: true,
        apIds: ['lab-ap-1', 'lab-ap-2', 'boat-ap', 'visit-ap'],
      },
    ],
    uplinks: [
      {
        id: 'fibre',
        name: 'Fibre',
        deviceId: 'gateway',
        portId: 'p1',
        kind: 'pppoe',
        tag: 132,
        priority: 1,
        outside: 'own',
        downMbps: 500,
        upMbps: 100,
        ...BLANK_UPLINK,
        ...watched(variant),
        facts: fibreFacts(variant),
      },
      {
        id: '5g',
        name: '5G',
        deviceId: 'gateway',
        portId: 'p2',
        kind: 'dhcp',
        tag: null,
        priority: 2,
        outside: 'shared',
        downMbps: 80,
        upMbps: 20,
        ...BLANK_UPLINK,
        fates: ['power in the plant room'],
        availablePct: 99,
        facts: cellularFacts(variant),
      },
    ],
    services: SERVICES,
    groups: [],
    schedules: [],
    policies: [{ deviceId: 'gateway', forward: 'drop', input: 'drop', rules: rules(variant), pairs: [] }],
    routes: [],
    policyRoutes: [
      {
        id: 'guests-wait',
        deviceId: 'gateway',
        from: inNetwork('guests'),
        services: [],
        out: { kind: 'uplink', id: 'fibre' },
        orElse: 'refuse',
        note: 'Guests wait while the fibre is down',
      },
    ],
    forwards: [],
    tunnels: TUNNELS,
    ipsec: [HARBOUR],
    intents: [
      intent('i-guests', inNetwork('guests'), internet, [], 'Guests reach the internet and nothing else'),
      intent(
        'i-tide',
        inNetwork('instruments'),
        theDevice('tide-server'),
        ['tide', 'ntp'],
        'Instruments deliver their data and take the time',
      ),
      intent(
        'i-files',
        inNetwork('staff'),
        inNetwork('servers'),
        ['files', 'https', 'ping'],
        'Staff reach the servers',
      ),
      intent('i-staff', inNetwork('staff'), internet, [], 'Staff reach the internet'),
      intent(
        'i-admin',
        theDevice('admin-desk'),
        inNetwork('management'),
        ['ssh', 'https', 'ping'],
        'Management only from the admin desk',
      ),
      intent(
        'i-video',
        inNetwork('cameras'),
        theDevice('recorder'),
        ['video'],
        'Cameras reach only their recorder',
      ),
      intent(
        'i-voice',
        inNetwork('voice'),
        internet,
        ['calls', 'dns'],
        'Voice keeps working with the fibre down',
        ['fibre'],
      ),
      intent('i-servers', inNetwork('servers'), internet, ['web', 'dns', 'ntp'], 'Servers fetch updates'),
      intent('i-manage', inNetwork('management'), internet, ['web', 'dns', 'ntp'], 'Devices fetch firmware'),
      intent(
        'i-office',
        inTunnel('mainland'),
        theDevice('tide-server'),
        ['tide', 'https'],
        'The Mainland Office reaches the tide data under either line',
        ['fibre', '5g'],
      ),
      intent(
        'i-archive',
        inTunnel('mainland'),
        theDevice('recorder'),
        ['https'],
        'The camera archive, from the Mainland Office only',
      ),
      intent(
        'i-away',
        inTunnel('keeper-away'),
        inNetwork('management'),
        ['ssh', 'https', 'ping'],
        'One tunnel user manages',
      ),
      intent(
        'i-road',
        { kind: 'tunnel', id: 'mainland-link' },
        theDevice('file-server'),
        ['files'],
        'People in the tunnel reach the files',
      ),
      intent(
        'i-names',
        inside,
        toGateway,
        ['dns', 'ntp', 'ping'],
        'Everyone may ask the gateway for names and time',
      ),
      intent(
        'i-gate',
        theDevice('admin-desk'),
        toGateway,
        ['ssh', 'https'],
        'The admin desk manages the gateway',
      ),
    ],
  }
}

/** Nearly right: one blocker and a handful of lesser findings, on purpose. */
export const gullhavenPlan = (): Plan => gullhaven({ name: 'Gullhaven Tidal Observatory', clean: false })

/** The same site without the mistakes: the Lookout has nothing to say about it but notes of habit. */
export const gullhavenClean = (): Plan => gullhaven({ name: 'Gullhaven, clean copy', clean: true })
