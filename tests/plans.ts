import type { Draft, Plan, WifiFacts, WorkFacts } from '#core/schema'
import { BLANK_BRIEF, BLANK_SITE, BLANK_UPLINK, BLANK_WIFI, BLANK_WORK } from '#core/edit'
import { PLAN_FORMAT, PLAN_VERSION } from '#core/format'
import {
  access,
  cat6,
  device,
  facts,
  fixed,
  hosts,
  inNetwork,
  inside,
  intent,
  internet,
  line,
  link,
  network,
  off,
  plain,
  ports,
  rule,
  SERVICES,
  toGateway,
  trunk,
  wan,
} from '#server/demo/build'

// A site small enough to be worked out by hand:
//
// internet - ont - gate(1 wan, 2 trunk) - sw(1 trunk, 2 access 10, 3 access 20, 4 off) - desk (staff), box
// (servers)

const ALL_KNOWN = facts({
  tagKnown: true,
  macLock: 'no',
  linkSpeed: 'auto',
  capGb: 0,
  outsideKnown: true,
  modem: 'none',
})

export type LoosePlan = Draft<Plan>

export function base(): Plan {
  return {
    format: PLAN_FORMAT,
    version: PLAN_VERSION,
    site: { ...BLANK_SITE, name: 'Small site', supernet: '10.9.0.0/16' },
    brief: { ...BLANK_BRIEF, otherWay: 'a telephone' },
    models: [],
    templates: [],
    networks: [
      network(
        'management',
        99,
        'Management',
        '10.9.99.0/24',
        '10.9.99.1',
        null,
        4,
        [fixed('10.9.99.2', 'Switch', 'sw')],
        'gate',
      ),
      network(
        'staff',
        10,
        'Staff',
        '10.9.10.0/24',
        '10.9.10.1',
        ['10.9.10.100', '10.9.10.199'],
        20,
        [],
        'gate',
      ),
      network(
        'servers',
        20,
        'Servers',
        '10.9.20.0/24',
        '10.9.20.1',
        null,
        2,
        [fixed('10.9.20.10', 'Box', 'box')],
        'gate',
      ),
    ],
    devices: [
      device('internet', 'Internet', 'cloud', '', 'outside', null, ports({ 1: plain })),
      device('ont', 'Terminal', 'modem', '', 'Room', null, ports({ line: plain, lan: plain })),
      device('gate', 'Gateway', 'gateway', '', 'Room', 'management', ports({ 1: wan, 2: trunk(99, 10, 20) })),
      device(
        'sw',
        'Switch',
        'switch',
        'S8P',
        'Room',
        'management',
        ports({ 1: trunk(99, 10, 20), 2: access(10), 3: access(20), 4: off }),
      ),
      hosts('desk', 'Desk', 'Room', 'staff', 1),
      hosts('box', 'Box', 'Room', 'servers', 1),
    ],
    links: [
      link('internet:1', 'ont:line', line),
      link('ont:lan', 'gate:1', cat6(2)),
      link('gate:2', 'sw:1', cat6(3)),
      link('sw:2', 'desk:1', cat6(10)),
      link('sw:3', 'box:1', cat6(5)),
    ],
    ssids: [],
    wifi: structuredClone(BLANK_WIFI as Draft<WifiFacts>),
    work: structuredClone(BLANK_WORK as Draft<WorkFacts>),
    uplinks: [
      {
        id: 'line',
        name: 'Line',
        deviceId: 'gate',
        portId: 'p1',
        kind: 'dhcp',
        tag: null,
        priority: 1,
        outside: 'own',
        downMbps: 100,
        upMbps: 20,
        ...BLANK_UPLINK,
        facts: ALL_KNOWN,
      },
    ],
    services: SERVICES,
    groups: [],
    schedules: [],
    policies: [
      {
        deviceId: 'gate',
        forward: 'drop',
        input: 'drop',
        rules: [
          rule('r1', inNetwork('staff'), inNetwork('servers'), ['https', 'ping'], 'Staff use the box'),
          rule('r2', inNetwork('staff'), internet, [], 'Staff go out'),
          rule('r3', inside, toGateway, ['dns', 'ping'], 'Names', 'input'),
        ],
        pairs: [],
      },
    ],
    routes: [],
    policyRoutes: [],
    forwards: [],
    tunnels: [],
    ipsec: [],
    intents: [
      intent('i1', inNetwork('staff'), inNetwork('servers'), ['https', 'ping'], 'Staff reach the box'),
      intent('i2', inNetwork('staff'), internet, [], 'Staff reach the internet'),
      intent('i3', inside, toGateway, ['dns', 'ping'], 'Everyone asks for names'),
    ],
  }
}

/** The small site with something changed. */
export function site(change: (plan: LoosePlan) => void = () => undefined): Plan {
  const plan = structuredClone(base()) as LoosePlan
  change(plan)
  return plan as Plan
}

export function the<T extends { id: string }>(items: readonly T[], id: string): T {
  const item = items.find((i) => i.id === id)
  if (!item) throw new Error(`the test plan has no ${id}`)
  return item
}

export const portOf = (plan: LoosePlan, deviceId: string, portId: string) =>
  the(the(plan.devices, deviceId).ports, portId)
