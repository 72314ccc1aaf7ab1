import { formatIpv4, ipv4 } from '#core/address'
import { chance } from '#core/util'
import type { Device, StaticAssignment, Link, Plan, PortMode, Rule, Selector } from '#core/schema'
import {
  BLANK_BRIEF,
  BLANK_FACTS,
  BLANK_NETWORK,
  BLANK_SITE,
  BLANK_UPLINK,
  BLANK_WIFI,
  BLANK_WORK,
  USUAL_SERVICES,
} from '#core/edit'
import { PLAN_FORMAT, PLAN_VERSION } from '#core/format'

// A plan of any size, the same for the same numbers: a gateway, one core switch, edge switches, and a group
// of hosts on each.

export interface Size {
  readonly switches: number
  readonly portsEach: number
  readonly networks: number
  readonly fixedEach: number
}

const row = (nth: number, mode: (i: number) => PortMode) =>
  Array.from({ length: nth }, (_, i) => ({
    id: `p${i + 1}`,
    name: String(i + 1),
    mode: mode(i),
    speedMbps: null,
    optic: null,
    poe: 'auto' as const,
  }))

/**
 * `switches` edge switches with a host device on each of their access ports' first half, `networks` networks.
 */
export function largePlan({ switches, portsEach, networks, fixedEach }: Size): Plan {
  const vlans = Array.from({ length: networks }, (_, i) => 10 + i)
  const all: PortMode = { mode: 'trunk', native: vlans[0] ?? 10, tagged: vlans.slice(1) }
  // Each edge switch is sent what its hosts need, and no more.
  const trunkOf = (switchNumber: number): PortMode => ({
    mode: 'trunk',
    native: vlans[0] ?? 10,
    tagged: (switchNumber + 1) % networks === 0 ? [] : [vlans[(switchNumber + 1) % networks] ?? 10],
  })
  const link = (from: string, ap: number, to: string, bp: number): Link => ({
    id: `${from}.${ap}-${to}.${bp}`,
    a: { deviceId: from, portId: `p${ap}` },
    b: { deviceId: to, portId: `p${bp}` },
    medium: { kind: 'copper', category: 'Cat6', lengthM: 20, run: 'indoor' },
    lag: null,
  })
  const device = (
    id: string,
    kind: Device['kind'],
    homeNetworkId: string | null,
    ports: Device['ports'],
    count = 1,
  ): Device => ({
    id,
    name: id,
    kind,
    model: '',
    place: 'House',
    homeNetworkId,
    count,
    mains: false,
    stpPriority: null,
    ports,
  })
  const devices: Device[] = [
    device(
      'gate',
      'gateway',
      'n0',
      row(2, () => all),
    ),
    device(
      'core',
      'switch',
      'n0',
      row(switches + 2, (i) => (i < 2 ? all : trunkOf(i - 2))),
    ),
  ]
  const links: Link[] = [link('gate', 2, 'core', 1)]
  for (let s = 0; s < switches; s++) {
    const id = `sw${s}`
    devices.push(
      device(
        id,
        'switch',
        'n0',
        row(portsEach, (i) =>
          i === 0 ? trunkOf(s) : { mode: 'access', vlan: vlans[(s + i) % networks] ?? 10 },
        ),
      ),
    )
    links.push(link('core', s + 3, id, 1))
    const hosts = `h${s}`
    devices.push(
      device(
        hosts,
        'hosts',
        `n${(s + 1) % networks}`,
        row(1, () => ({ mode: 'plain' })),
        10,
      ),
    )
    links.push(link(id, 2, hosts, 1))
  }
  const fixed = (nth: number): StaticAssignment[] =>
    Array.from({ length: fixedEach }, (_, i) => ({
      id: `f${i}`,
      ip: formatIpv4(ipv4(0x0a000000 + nth * 0x10000 + 256 + i)),
      name: `host ${i}`,
      deviceId: null,
      how: 'static',
      mask: null,
      gateway: null,
      mac: null,
      ip6: null,
    }))
  const own = (ids: readonly string[]): StaticAssignment[] =>
    ids.map((id, i) => ({
      id: `own-${id}`,
      ip: formatIpv4(ipv4(0x0a000000 + 0x4000 + i)),
      name: id,
      deviceId: id,
      how: 'static',
      mask: null,
      gateway: null,
      mac: null,
      ip6: null,
    }))
  return {
    format: PLAN_FORMAT,
    version: PLAN_VERSION,
    site: { ...BLANK_SITE, name: 'Large', supernet: '10.0.0.0/8' },
    brief: BLANK_BRIEF,
    models: [],
    templates: [],
    services: [],
    groups: [],
    schedules: [],
    devices,
    links,
    uplinks: [],
    ssids: [],
    wifi: BLANK_WIFI,
    work: BLANK_WORK,
    policies: [],
    intents: [],
    routes: [],
    policyRoutes: [],
    forwards: [],
    tunnels: [],
    ipsec: [],
    networks: vlans.map((vlan, nth) => ({
      ...BLANK_NETWORK,
      id: `n${nth}`,
      vlan,
      name: `Network ${nth}`,
      subnet: `10.${nth}.0.0/16`,
      gateway: `10.${nth}.0.1`,
      routerId: 'gate',
      dhcp: 'serve',
      pool: { from: `10.${nth}.128.0`, to: `10.${nth}.255.200` },
      expected: 100,
      fixed:
        nth === 0
          ? [...fixed(nth), ...own(devices.filter((d) => d.kind === 'switch').map((d) => d.id))]
          : fixed(nth),
    })),
  }
}

/** A site as a large office has it: every network served, a line outside, rules and intents by chance. */
export function busyPlan(seed: number, rules: number, size: Size): Plan {
  const plan = largePlan(size)
  const next = chance(seed)
  const pick = (below: number) => Math.floor(next() * below)
  const nth = size.networks
  const ids = USUAL_SERVICES.map((s) => s.id)
  const selector = (): Selector => {
    const net = pick(nth)
    return (
      [
        { kind: 'network', id: `n${net}` },
        { kind: 'network', id: `n${net}` },
        { kind: 'prefix', prefix: `10.${net}.${16 * (1 + pick(15))}.0/20` },
        { kind: 'prefix', prefix: `10.${net}.${1 + pick(250)}.${pick(250)}/32` },
        { kind: 'internet' },
        { kind: 'device', id: `sw${pick(size.switches)}` },
      ] as const
    )[pick(6)] as Selector
  }
  const services = () => Array.from({ length: pick(3) }, () => ids[pick(ids.length)] ?? 'https')
  const list = Array.from({ length: rules }, (_, i): Rule => ({
    id: `r${i}`,
    chain: 'forward',
    action: (['accept', 'accept', 'drop', 'reject'] as const)[pick(4)] ?? 'drop',
    from: selector(),
    to: selector(),
    services: services(),
    note: '',
    log: false,
    when: null,
  }))
  return {
    ...plan,
    services: USUAL_SERVICES,
    networks: plan.networks.map((net, i) => ({
      ...net,
      dhcp: 'serve',
      pool: { from: `10.${i}.128.0`, to: `10.${i}.191.255` },
    })),
    devices: [
      ...plan.devices.map((device) =>
        device.id === 'gate'
          ? {
              ...device,
              ports: device.ports.map((p) => (p.id === 'p1' ? { ...p, mode: { mode: 'wan' as const } } : p)),
            }
          : device,
      ),
      {
        id: 'out',
        name: 'Internet',
        kind: 'cloud',
        model: '',
        place: '',
        homeNetworkId: null,
        count: 1,
        mains: false,
        stpPriority: null,
        ports: row(1, () => ({ mode: 'plain' })),
      },
    ],
    links: [
      ...plan.links,
      {
        id: 'outside',
        a: { deviceId: 'out', portId: 'p1' },
        b: { deviceId: 'gate', portId: 'p1' },
        medium: { kind: 'line' },
        lag: null,
      },
    ],
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
        downMbps: 1000,
        upMbps: 1000,
        ...BLANK_UPLINK,
        facts: BLANK_FACTS,
      },
    ],
    policies: [{ deviceId: 'gate', forward: 'drop', input: 'drop', rules: list, pairs: [] }],
    intents: Array.from({ length: nth }, (_, i) => ({
      id: `i${i}`,
      from: { kind: 'network', id: `n${i}` },
      to: i % 2 === 0 ? { kind: 'internet' } : { kind: 'network', id: `n${pick(nth)}` },
      services: services(),
      survives: [],
      log: false,
      when: null,
      note: `intent ${i}`,
    })),
  }
}
