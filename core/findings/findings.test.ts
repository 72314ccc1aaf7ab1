import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import {
  access,
  cat6,
  device,
  fibre,
  fixed,
  hosts,
  inNetwork,
  internet,
  intent,
  ipsecEnd,
  link,
  network,
  plain,
  ports,
  rule,
  theDevice,
  trunk,
} from '#server/demo/build'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import {
  indexPlan,
  applyChanges,
  BLANK_CELLULAR,
  BLANK_PORT,
  makeSerial,
  modelNamed,
  type Model,
  type OpticName,
  type Plan,
  type PortGroup,
} from '#core/model'
import { analyse, findingKey, withRepairs, type Finding, type FindingCode } from '.'

type Change = (plan: LoosePlan) => void
const repaired = (plan: Plan): readonly Finding[] =>
  withRepairs(indexPlan(plan), analyse(indexPlan(plan), []).findings)
const findingsOf = (change: Change): readonly Finding[] => repaired(site(change))
const ofCode = (change: Change, code: FindingCode) => findingsOf(change).filter((f) => f.code === code)

const staff = (p: LoosePlan) => the(p.networks, 'staff')
const servers = (p: LoosePlan) => the(p.networks, 'servers')
const rules = (p: LoosePlan) => p.policies[0]?.rules ?? []
const strip: Change = (plan) => {
  plan.devices.push(
    device('strip', 'Strip', 'unmanaged', '', 'Room', null, ports({ 1: plain, 2: plain })) as never,
  )
  plan.links.push(link('sw:4', 'strip:1', cat6(2)) as never)
}
const spare: Change = (plan) => {
  the(plan.devices, 'gate').ports.push({ id: 'p3', name: '3', mode: { mode: 'wan' }, ...BLANK_PORT })
  the(plan.devices, 'internet').ports.push({ id: 'p2', name: '2', mode: { mode: 'plain' }, ...BLANK_PORT })
  plan.links.push(link('internet:2', 'gate:3', { kind: 'line' }) as never)
  plan.uplinks.push({ ...the(plan.uplinks, 'line'), id: 'spare', portId: 'p3', priority: 2 })
}

/** Two lines, the first well watched. */
const two: Change = (plan) => {
  spare(plan)
  Object.assign(the(plan.uplinks, 'line'), {
    holdDownS: 60,
    probe: {
      kind: 'icmp',
      targets: ['198.51.100.1', '203.0.113.1'],
      quorum: 2,
      everyS: 5,
      timeoutS: 1,
      misses: 3,
      returns: 3,
    },
  })
}
const probeOf = (p: LoosePlan) => the(p.uplinks, 'line').probe!
const handed = (plan: LoosePlan, uplinkId: string) =>
  void plan.forwards.push({
    id: uplinkId,
    deviceId: 'gate',
    uplinkId,
    proto: 'tcp',
    from: 8443,
    to: 8443,
    toAddress: '10.9.20.10',
    toPort: 443,
    hairpin: false,
    note: '',
  })
const inspected = (plan: LoosePlan) => {
  the(plan.devices, 'gate').model = 'G4'
  the(plan.uplinks, 'spare').downMbps = 10
}
const typed: (p: LoosePlan, ip6: string) => void = (plan, ip6) => {
  Object.assign(servers(plan), { prefix6: '2001:db8:5:20::/64', mode6: 'slaac' })
  servers(plan).fixed[0]!.ip6 = ip6
}
const heard = (plan: LoosePlan, rsrpDbm: number, sinrDb: number) =>
  void (the(plan.uplinks, 'line').facts.cellular = { ...BLANK_CELLULAR, rsrpDbm, sinrDb })
const capped = (plan: LoosePlan, gb: number) => {
  the(plan.uplinks, 'line').usualGbPerDay = 24
  the(plan.uplinks, 'spare').facts = { ...the(plan.uplinks, 'spare').facts, capGb: gb }
}
/** The spare beside the line, with so much speed and weight. */
const shared = (plan: LoosePlan, mbps: number, weight: number) => (
  two(plan),
  void Object.assign(the(plan.uplinks, 'spare'), { priority: 1, downMbps: mbps, weight })
)
const OTHER_KEY = 'xTIBA5rboUvnH4htodjb6e697QjLERt1NAB4mZqp8Dg='
/** Staff known to the peers by another prefix. */
const known = (plan: LoosePlan, outside: string) => (
  tunnelled(plan, {}, {}),
  void Object.assign(plan.tunnels[0]!, { mapped: [{ id: 'm', inside: '10.9.10.0/24', outside }] })
)
const hours = (plan: LoosePlan) =>
  void plan.schedules.push({
    id: 'office',
    name: 'Office hours',
    days: [1, 2, 3, 4, 5],
    from: '08:00',
    to: '18:00',
  })
/** A refusal in office hours, and another of the same after it. */
const timedPair = (plan: LoosePlan, when: string | null) =>
  void rules(plan).push(
    {
      ...rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''),
      action: 'drop',
      when: 'office',
    } as never,
    { ...rule('y', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''), action: 'drop', when } as never,
  )
const KEY = 'hSDwCYkwp1R0i33ctD73Wg2/Og0mOBr066SpjqqbTmo='
/** Two far sites in one tunnel, which this gateway dials, and one rule for it. */
const tunnelled = (plan: LoosePlan, first: object, second: object) => {
  const peer = (id: string, allowed: string, more: object) => ({
    id,
    name: id,
    kind: 'site',
    publicKey: null,
    next: null,
    allowed: [allowed],
    theirAllowed: ['10.9.0.0/16'],
    endpoint: `${id}.example:51820`,
    keepaliveS: 25,
    downMbps: null,
    upMbps: null,
    ...more,
  })
  plan.tunnels.push({
    id: 'wg',
    name: 'Tunnel',
    deviceId: 'gate',
    publicName: 'vpn.example',
    nameEveryS: 300,
    nameTtlS: 60,
    address: '10.9.200.1/24',
    listenPort: 51820,
    mtu: 1420,
    publicKey: null,
    mapped: [],
    peers: [peer('a', '10.20.0.0/22', first), peer('b', '10.30.0.0/22', second)],
  } as never)
  rules(plan).push(rule('wg', { kind: 'tunnel', id: 'wg' }, inNetwork('servers'), ['https'], '') as never)
}
/** Staff may not call the servers, and back they may: an intent or not. */
const refused: Change = (plan) => {
  rules(plan).unshift({
    ...rule('no', inNetwork('staff'), inNetwork('servers'), [], ''),
    action: 'drop',
  } as never)
  rules(plan).push(rule('back', inNetwork('servers'), inNetwork('staff'), ['ssh'], '') as never)
  plan.intents = plan.intents.filter((i) => i.id !== 'i1')
  plan.intents.push(
    intent('back', inNetwork('servers'), inNetwork('staff'), ['ssh'], 'Servers call staff') as never,
  )
}
/** Staff may go out and no more. */
const outOnly: Change = (plan) => {
  plan.intents = plan.intents.filter((i) => i.id !== 'i1')
  void rules(plan).shift()
}
/** Staff as guests: kept apart in the air. */
const guests: Change = (plan) => {
  ap(plan)
  plan.ssids.push({ id: 's', name: 'Air', networkId: 'staff', isolation: true, apIds: ['ap'] })
}
const both: Change = (plan) => {
  for (const [id, prefix6] of [
    ['staff', '2001:db8:5:10::/64'],
    ['servers', '2001:db8:5:20::/64'],
  ] as const)
    Object.assign(the(plan.networks, id), { prefix6, mode6: 'slaac' })
  the(plan.uplinks, 'line').facts.delegated6 = '2001:db8:5::/48'
  plan.site.prefix6 = '2001:db8:5::/48'
}
/** Staff are let to all servers but one address, which no intent names either. */
const byAddress: Change = (plan) => {
  rules(plan).unshift({
    ...rule('no', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/24' }, ['ssh'], ''),
    action: 'drop',
  } as never)
  rules(plan).push(rule('yes', inNetwork('staff'), inNetwork('servers'), ['ssh'], '') as never)
}
const provided: Change = (plan) => {
  tunnelled(plan, { kind: 'provider', allowed: ['0.0.0.0/0'], theirAllowed: ['10.9.200.1/32'] }, {})
  plan.policyRoutes.push({
    id: 'v',
    deviceId: 'gate',
    from: inNetwork('staff') as never,
    services: [],
    out: { kind: 'tunnel', id: 'wg' },
    orElse: 'refuse',
    note: '',
  })
}
/** An IPsec connection whose ends fit, but for what is said of ours. */
const sealed = (plan: LoosePlan, ours: object) =>
  void plan.ipsec.push({
    id: 'far',
    name: 'Far',
    deviceId: 'gate',
    ours: { ...ipsecEnd('a.example', '198.51.100.1', ['10.9.0.0/16'], true), ...ours },
    theirs: ipsecEnd('b.example', '198.51.100.2', ['10.2.0.0/16'], false),
  } as never)
const box = (plan: LoosePlan, serial: string, id = 'x') =>
  void plan.brief.equipment.push({ id, model: '', serial, mac: null, deviceId: null })
const ap = (plan: LoosePlan) => {
  plan.site.country = 'XG'
  plan.devices.push(device('ap', 'AP', 'access-point', 'A2', 'Room', null, ports({ 1: trunk(10) })) as never)
  portOf(plan, 'sw', 'p4').mode = trunk(10) as never
  plan.links.push(link('sw:4', 'ap:1', cat6(20)) as never)
}
const ring: Change = (plan) => {
  plan.devices.push(
    device('strip2', 'Strip 2', 'unmanaged', '', 'Room', null, ports({ 1: plain, 2: plain })) as never,
  )
  the(plan.devices, 'strip').ports.push({
    ...structuredClone(portOf(plan, 'strip', 'p2')),
    id: 'p3',
    name: '3',
  } as never)
  plan.links.push(
    link('strip:2', 'strip2:1', cat6(1)) as never,
    link('strip:3', 'strip2:2', cat6(1)) as never,
  )
}
const MODEL = {
  ...(modelNamed('S8P') as Model),
  name: 'TEN',
  ports: [
    { ...((modelNamed('S8P') as Model).ports[0] as PortGroup), names: '1-9', speedsMbps: [1000, 10_000] },
  ],
  poeBudgetW: null,
}
const tenGig = (plan: LoosePlan, lengthM: number) => {
  plan.models.push(structuredClone(MODEL) as never)
  the(plan.devices, 'sw').model = 'TEN'
  plan.devices.push(
    device('t', 'Ten', 'switch', 'TEN', 'Room', null, ports({ 1: access(10), 2: access(10) })) as never,
  )
  portOf(plan, 'sw', 'p4').mode = access(10) as never
  plan.links.push(link('sw:4', 't:1', cat6(lengthM)) as never)
}
const bundle = (plan: LoosePlan, vlan: number) => {
  tenGig(plan, 10)
  the(plan.devices, 'sw').ports.push({
    ...structuredClone(portOf(plan, 'sw', 'p4')),
    id: 'p5',
    name: '5',
    mode: access(vlan),
  } as never)
  plan.links.push(link('sw:5', 't:2', cat6(10)) as never)
  for (const link of plan.links.slice(-2)) link.lag = 'up'
}
/** Loads of so many watts in all at the switch's source, on short leads. */
const heavy = (plan: LoosePlan, watts: number) => {
  plan.models.push({
    ...structuredClone(MODEL),
    name: 'LOAD',
    kind: 'hosts',
    ports: [
      {
        ...structuredClone(MODEL.ports[0]),
        names: '*',
        source: null,
        load: { standard: 'ieee', class: 4, typicalW: watts / 2 },
      },
    ],
  } as never)
  plan.devices.push(hosts('loads', 'Loads', 'Room', 'staff', 2, 2, 'LOAD') as never)
  for (const nth of [5, 6]) {
    the(plan.devices, 'sw').ports.push({
      ...structuredClone(portOf(plan, 'sw', 'p2')),
      id: `p${nth}`,
      name: String(nth),
    } as never)
    plan.links.push(link(`sw:${nth}`, `loads:${nth - 4}`, cat6(0)) as never)
  }
}
const injector = (plan: LoosePlan, toSwitch: string, toRadio: string) => {
  plan.site.country = 'XG'
  plan.devices.push(
    device('inj', 'Injector', 'injector', 'J30', 'Room', null, ports({ lan: plain, poe: plain })) as never,
    device(
      'radio',
      'Radio',
      'bridge-radio',
      'B5',
      'Roof',
      null,
      ports({ lan: plain, radio: plain }),
    ) as never,
  )
  plan.links.push(
    link(`sw:4`, `inj:${toSwitch}`, cat6(2)) as never,
    link(`inj:${toRadio}`, 'radio:lan', cat6(20)) as never,
  )
}
const lit = (plan: LoosePlan, first: OpticName | null, second: OpticName | null) => {
  plan.devices.push(device('s2', 'Second', 'switch', 'S8P', 'Room', null, ports({ 9: access(10) })) as never)
  the(plan.devices, 'sw').ports.push({
    ...structuredClone(portOf(plan, 'sw', 'p2')),
    id: 'p9',
    name: '9',
    optic: first,
  } as never)
  portOf(plan, 's2', 'p9').optic = second
  plan.links.push(link('sw:9', 's2:9', fibre('OS2', 140)) as never)
}

// For each code: a plan that raises it, at which place, and a plan close to it that does not.
const CASES: readonly (readonly [FindingCode, string, string, Change, Change])[] = [
  [
    'A01',
    'a gateway in another subnet',
    'networks.staff.gateway',
    (p) => void (staff(p).gateway = '10.9.11.1'),
    (p) => void (staff(p).gateway = '10.9.10.254'),
  ],
  [
    'A02',
    'the broadcast address as gateway',
    'networks.staff.gateway',
    (p) => void (staff(p).gateway = '10.9.10.255'),
    (p) => void (staff(p).gateway = '10.9.10.254'),
  ],
  [
    'A03',
    'a static address in the pool',
    'networks.staff.pool',
    (p) => void staff(p).fixed.push(fixed('10.9.10.150', 'Printer', null) as never),
    (p) => void staff(p).fixed.push(fixed('10.9.10.150', 'Printer', null, 'reserved') as never),
  ],
  [
    'A04',
    'a pool that leaves its subnet',
    'networks.staff.pool',
    (p) => void (staff(p).pool = { from: '10.9.10.200', to: '10.9.11.20' }),
    (p) => void (staff(p).pool = { from: '10.9.10.200', to: '10.9.10.254' }),
  ],
  [
    'A05',
    'two subnets that overlap',
    'networks.servers.subnet',
    (p) => void Object.assign(servers(p), { subnet: '10.9.10.128/25', gateway: '10.9.10.129', fixed: [] }),
    (p) => void Object.assign(servers(p), { subnet: '10.9.11.0/25', gateway: '10.9.11.1', fixed: [] }),
  ],
  [
    'A08',
    'one address for two things',
    'networks.staff.fixed.at-10-9-10-1.ip',
    (p) => void staff(p).fixed.push(fixed('10.9.10.1', 'Printer', null) as never),
    (p) => void staff(p).fixed.push(fixed('10.9.10.2', 'Printer', null) as never),
  ],
  [
    'A09',
    'public addresses inside',
    'networks.staff.subnet',
    (p) => void Object.assign(staff(p), { subnet: '172.32.0.0/24', gateway: '172.32.0.1', pool: null }),
    (p) => void Object.assign(staff(p), { subnet: '172.31.0.0/24', gateway: '172.31.0.1', pool: null }),
  ],
  [
    'A10',
    'a pool smaller than who is expected',
    'networks.staff.pool',
    (p) => void (staff(p).expected = 101),
    (p) => void (staff(p).expected = 100),
  ],
  [
    'A13',
    'one VLAN for two networks',
    'networks.servers.vlan',
    (p) => void (servers(p).vlan = 10),
    (p) => void (servers(p).vlan = 21),
  ],
  [
    'A14',
    'the subnet of every home',
    'networks.staff.subnet',
    (p) => void Object.assign(staff(p), { subnet: '192.168.1.0/24', gateway: '192.168.1.1', pool: null }),
    (p) => void Object.assign(staff(p), { subnet: '192.168.61.0/24', gateway: '192.168.61.1', pool: null }),
  ],
  [
    'A15',
    'two networks in one octet',
    'networks.servers.subnet',
    (plan) => {
      Object.assign(staff(plan), { subnet: '10.9.20.128/25', gateway: '10.9.20.129', pool: null })
      servers(plan).subnet = '10.9.20.0/25'
    },
    (p) => void (servers(p).subnet = '10.9.20.0/25'),
  ],
  [
    'A16',
    'infrastructure without an address of its own',
    'devices.sw',
    (p) => void (the(p.networks, 'management').fixed = []),
    (plan) =>
      void (the(plan.networks, 'management').fixed = [
        fixed('10.9.99.9', 'Switch', 'sw', 'reserved'),
      ] as never),
  ],
  [
    'A17',
    'a network outside the site’s block',
    'networks.staff.subnet',
    (p) => void Object.assign(staff(p), { subnet: '10.10.0.0/24', gateway: '10.10.0.1', pool: null }),
    (p) => void Object.assign(staff(p), { subnet: '10.9.255.0/24', gateway: '10.9.255.1', pool: null }),
  ],
  [
    'E01',
    'a VLAN nobody planned on a port',
    'devices.gate.ports.p2',
    (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10, 20, 77) as never),
    (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 20, 10) as never),
  ],
  [
    'E02',
    'a VLAN that stops short',
    'devices.gate.ports.p2',
    (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10) as never),
    (plan) => {
      portOf(plan, 'gate', 'p2').mode = trunk(99, 10) as never
      plan.devices = plan.devices.filter((d) => d.id !== 'box')
      plan.links = plan.links.filter((l) => l.b.deviceId !== 'box')
    },
  ],
  [
    'E03',
    'native VLANs that differ',
    'devices.gate.ports.p2',
    (p) => void (portOf(p, 'sw', 'p1').mode = trunk(20, 10, 99) as never),
    (plan) => {
      portOf(plan, 'sw', 'p1').mode = trunk(20, 10, 99) as never
      portOf(plan, 'gate', 'p2').mode = trunk(20, 10, 99) as never
    },
  ],
  [
    'E04',
    'tags into an unmanaged switch',
    'devices.sw.ports.p4',
    (p) => (strip(p), void (portOf(p, 'sw', 'p4').mode = trunk(99, 10) as never)),
    (p) => (strip(p), void (portOf(p, 'sw', 'p4').mode = access(10) as never)),
  ],
  // ISO/IEC 11801-1: a copper channel is at most 100 m.
  [
    'E07',
    'copper too long',
    'links.sw.2-desk.1.medium',
    (p) => void (the(p.links, 'sw.2-desk.1').medium = cat6(101) as never),
    (p) => void (the(p.links, 'sw.2-desk.1').medium = cat6(100) as never),
  ],
  [
    'E11',
    'hosts in another network than they belong in',
    'devices.sw.ports.p2',
    (p) => void (portOf(p, 'sw', 'p2').mode = access(20) as never),
    (p) => void (portOf(p, 'sw', 'p2').mode = trunk(10, 20) as never),
  ],
  // Common practice: a LAN that is also the network on the line's side cannot be routed.
  [
    'A06',
    'the upstream side of a line inside',
    'networks.staff.subnet',
    (p) => void (the(p.uplinks, 'line').facts.address = '10.9.10.77/28'),
    (p) => void (the(p.uplinks, 'line').facts.address = '10.9.11.77/28'),
  ],
  [
    'A07',
    'another site’s subnet',
    'networks.staff.subnet',
    (plan) =>
      void plan.brief.far.push({ id: 'f', name: 'Office', subnets: ['10.9.8.0/21'], tunnel: null } as never),
    (plan) =>
      void plan.brief.far.push({
        id: 'f',
        name: 'Office',
        subnets: ['10.9.0.0/21'],
        tunnel: '10.9.200.0/29',
      } as never),
  ],
  [
    'A11',
    'a mask where a gateway belongs',
    'networks.servers.fixed.at-10-9-20-10.gateway',
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').gateway = '255.255.255.0'),
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').gateway = '10.9.20.1'),
  ],
  [
    'A11',
    'a mask that is not the network’s',
    'networks.servers.fixed.at-10-9-20-10.mask',
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').mask = 16),
    (p) => void (the(servers(p).fixed, 'at-10-9-20-10').mask = 24),
  ],
  // Erlang B: 100 addresses, 20 an hour for 2 h under an 8 h lease offer 160; under 2 h 40.
  [
    'A12',
    'a lease too long for the turnover',
    'networks.staff.leaseS',
    (p) => void Object.assign(staff(p), { arrivalsPerH: 20, stayH: 2 }),
    (p) => void Object.assign(staff(p), { arrivalsPerH: 20, stayH: 2, leaseS: 7200 }),
  ],
  [
    'A18',
    'one MAC reserved twice',
    'networks.staff.fixed.b.mac',
    (plan) =>
      void staff(plan).fixed.push(
        { ...fixed('10.9.10.5', 'A', null, 'reserved'), id: 'a', mac: '00-00-5E-00-53-01' } as never,
        { ...fixed('10.9.10.6', 'B', null, 'reserved'), id: 'b', mac: '00-00-5E-00-53-01' } as never,
      ),
    (plan) =>
      void staff(plan).fixed.push({
        ...fixed('10.9.10.5', 'A', null, 'reserved'),
        id: 'a',
        mac: '00-00-5E-00-53-01',
      } as never),
  ],
  [
    'A19',
    'a relay to nobody',
    'networks.staff.relayTo',
    (p) => void Object.assign(staff(p), { dhcp: 'relay', relayTo: '10.9.20.11' }),
    (p) => void Object.assign(staff(p), { dhcp: 'relay', relayTo: '10.9.20.10' }),
  ],
  [
    'A20',
    'an IPv6 prefix outside the site’s',
    'networks.staff.prefix6',
    (p) => (void (p.site.prefix6 = 'fd00:1::/48'), void (staff(p).prefix6 = 'fd00:2:0:10::/64')),
    (p) => (void (p.site.prefix6 = 'fd00:1::/48'), void (staff(p).prefix6 = 'fd00:1:0:10::/64')),
  ],
  [
    'A21',
    'one IPv6 prefix for two networks',
    'networks.servers.prefix6',
    (p) => (void (staff(p).prefix6 = 'fd00::/64'), void (servers(p).prefix6 = 'fd00::/64')),
    (p) => (void (staff(p).prefix6 = 'fd00::/64'), void (servers(p).prefix6 = 'fd00:0:0:1::/64')),
  ],
  // RFC 4862 section 5.5.3 and RFC 4291 section 2.5.1: interface identifiers are 64 bits.
  [
    'A22',
    'SLAAC on a prefix that is not a /64',
    'networks.staff.prefix6',
    (p) => void Object.assign(staff(p), { prefix6: 'fd00::/60', mode6: 'slaac' }),
    (p) => void Object.assign(staff(p), { prefix6: 'fd00::/60', mode6: 'stateful' }),
  ],
  [
    'A24',
    'a typed IPv6 address outside its network’s',
    'networks.servers.fixed.at-10-9-20-10.ip6',
    (p) => typed(p, '2001:db8:7::10'),
    (p) => typed(p, '2001:db8:5:20::10'),
  ],
  [
    'A24',
    'the gateway’s IPv6 address typed into a host',
    'networks.servers.fixed.at-10-9-20-10.ip6',
    (p) => typed(p, '2001:db8:5:20::1'),
    (p) => typed(p, '2001:db8:5:20::2'),
  ],
  [
    'A24',
    'a typed IPv6 address in a network without',
    'networks.servers.fixed.at-10-9-20-10.ip6',
    (p) => (typed(p, '2001:db8:5:20::10'), void (servers(p).mode6 = 'off')),
    (p) => typed(p, '2001:db8:5:20::10'),
  ],
  [
    'A23',
    'an exclusion outside the pool',
    'networks.staff.exclusions',
    (p) => void (staff(p).exclusions = [{ from: '10.9.10.20', to: '10.9.10.30' }]),
    (p) => void (staff(p).exclusions = [{ from: '10.9.10.120', to: '10.9.10.130' }]),
  ],
  [
    'D04',
    'a serial that does not check',
    'brief.equipment.x.serial',
    (p) => box(p, 'GH-7A01-K5R0'),
    (p) => box(p, makeSerial('GH', '7A01K5R')),
  ],
  [
    'D04',
    'the board’s serial',
    'brief.equipment.x.serial',
    (p) => box(p, makeSerial('GB', '7A01K5R')),
    (p) => box(p, makeSerial('GH', '7A01K5R')),
  ],
  [
    'D04',
    'one serial for two boxes',
    'brief.equipment.y.serial',
    (p) => (box(p, makeSerial('GH', '7A01K5R')), box(p, makeSerial('GH', '7A01K5R'), 'y')),
    (p) => (box(p, makeSerial('GH', '7A01K5R')), box(p, makeSerial('GH', '7A02K5R'), 'y')),
  ],
  [
    'D08',
    'radios without a country',
    'site.country',
    (p) => (ap(p), void (p.site.country = '')),
    (p) => (ap(p), void (p.site.country = 'XG')),
  ],
  [
    'E05',
    'a ring that nobody breaks',
    'devices.strip',
    (p) => (strip(p), ring(p)),
    (p) => (strip(p), ring(p), void (p.links.length -= 1)),
  ],
  // IEEE 802.3 clause 55: 10GBASE-T reaches 55 m on Cat6.
  [
    'E06',
    'a cable slower than both ends',
    'links.sw.4-t.1.medium',
    (p) => tenGig(p, 56),
    (p) => tenGig(p, 55),
  ],
  [
    'E06',
    'no common speed',
    'links.sw.4-t.1.medium',
    (p) => (tenGig(p, 10), void (portOf(p, 't', 'p1').speedMbps = 2500)),
    (p) => (tenGig(p, 10), void (portOf(p, 't', 'p1').speedMbps = 1000)),
  ],
  [
    'E06',
    'a slow port in front of a fast line',
    'devices.gate.ports.p1',
    (p) => void ((portOf(p, 'gate', 'p1').speedMbps = 100), (the(p.uplinks, 'line').downMbps = 200)),
    (p) => void ((portOf(p, 'gate', 'p1').speedMbps = 1000), (the(p.uplinks, 'line').downMbps = 200)),
  ],
  [
    'E08',
    'a device that gets no power',
    'devices.ap',
    (p) => (ap(p), void (portOf(p, 'sw', 'p4').poe = 'off')),
    (p) => ap(p),
  ],
  // Common practice: a tenth of a budget is kept free. 65 W less a tenth is 58.5 W.
  ['E08', 'a budget without headroom', 'devices.sw', (p) => heavy(p, 60), (p) => heavy(p, 55)],
  ['E08', 'more than the budget', 'devices.sw', (p) => heavy(p, 66), (p) => heavy(p, 55)],
  [
    'E09',
    'an injector with crossed cables',
    'devices.inj',
    (p) => injector(p, 'poe', 'lan'),
    (p) => injector(p, 'lan', 'poe'),
  ],
  [
    'E09',
    'a line on a LAN port',
    'devices.gate.ports.p1',
    (plan) =>
      void (
        (the(plan.devices, 'gate').model = 'G4'),
        (portOf(plan, 'gate', 'p1').name = '3'),
        (portOf(plan, 'gate', 'p2').name = '4')
      ),
    (p) => void ((the(p.devices, 'gate').model = 'G4'), (portOf(p, 'gate', 'p2').name = '4')),
  ],
  [
    'E10',
    'a fibre without a transceiver',
    'devices.sw.ports.p9',
    (p) => lit(p, null, '1000BASE-LX10'),
    (p) => lit(p, '1000BASE-LX10', '1000BASE-LX10'),
  ],
  [
    'E10',
    'light that does not fit the fibre',
    'devices.sw.ports.p9',
    (p) => lit(p, '1000BASE-SX', '1000BASE-SX'),
    (p) => lit(p, '1000BASE-LX10', '1000BASE-LX10'),
  ],
  [
    'E10',
    'copper in a port for transceivers',
    'devices.sw.ports.p9',
    (plan) => (
      lit(plan, '1000BASE-LX10', '1000BASE-LX10'),
      void ((plan.links.at(-1) as { medium: unknown }).medium = cat6(10))
    ),
    (p) => lit(p, '1000BASE-LX10', '1000BASE-LX10'),
  ],
  [
    'E12',
    'a bundle that does not hold together',
    'links.sw.4-t.1.lag',
    (p) => bundle(p, 20),
    (p) => bundle(p, 10),
  ],
  [
    'E13',
    'a VLAN that nobody needs',
    'devices.gate.ports.p2',
    (plan) => (
      plan.networks.push(
        network('spare', 44, 'Spare', '10.9.44.0/24', '10.9.44.1', null, 1, [], 'gate') as never,
      ),
      void (portOf(plan, 'gate', 'p2').mode = trunk(99, 10, 20, 44) as never)
    ),
    (plan) =>
      void plan.networks.push(
        network('spare', 44, 'Spare', '10.9.44.0/24', '10.9.44.1', null, 1, [], 'gate') as never,
      ),
  ],
  [
    'W01',
    'a fact of a line that nobody knows',
    'uplinks.line.facts.macLock',
    (p) => void (the(p.uplinks, 'line').facts.macLock = null),
    (p) => void (the(p.uplinks, 'line').facts.macLock = 'no'),
  ],
  [
    'W07',
    'a port that is shipped locked',
    'uplinks.line.facts.portEnabled',
    (plan) =>
      void (
        (the(plan.devices, 'gate').model = 'G4'),
        (portOf(plan, 'gate', 'p1').name = '2'),
        (portOf(plan, 'gate', 'p2').name = '4')
      ),
    (plan) =>
      void (
        (the(plan.devices, 'gate').model = 'G4'),
        (portOf(plan, 'gate', 'p1').name = '2'),
        (portOf(plan, 'gate', 'p2').name = '4'),
        (the(plan.uplinks, 'line').facts.portEnabled = true)
      ),
  ],
  // RFC 6598: 100.64.0.0/10 is shared by a provider's customers.
  [
    'W11',
    'an address of the provider’s shared space',
    'uplinks.line.facts.address',
    (p) => void (the(p.uplinks, 'line').facts.address = '100.127.255.4/30'),
    (p) => void (the(p.uplinks, 'line').facts.address = '100.128.0.4/30'),
  ],
  // RFC 1918: 192.168.0.0/16 is private; a probe of it stays on this side.
  [
    'W02',
    'a probe target that is not outside',
    'uplinks.line.probe',
    (p) => (two(p), void (probeOf(p).targets = ['192.168.8.1', '198.51.100.1'])),
    (p) => two(p),
  ],
  [
    'W02',
    'a line with a spare and no probe',
    'uplinks.line.probe',
    (p) => (two(p), void (the(p.uplinks, 'line').probe = null)),
    (p) => void (the(p.uplinks, 'line').probe = null),
  ],
  [
    'W02',
    'one target alone',
    'uplinks.line.probe',
    (p) => (two(p), void (probeOf(p).targets = ['198.51.100.1'])),
    (p) => two(p),
  ],
  // 3 misses of 5 s and 1 s of waiting: 16 s at most.
  [
    'W03',
    'a change-over later than wished',
    'uplinks.line.probe',
    (p) => (two(p), void (p.site.mostOutageS = 15)),
    (p) => (two(p), void (p.site.mostOutageS = 16)),
  ],
  [
    'W03',
    'more false alarms than wished',
    'uplinks.line.probe',
    (p) => (two(p), void Object.assign(probeOf(p), { misses: 1 }), void (p.site.mostFalseAlarms = 1)),
    (p) => (two(p), void (p.site.mostFalseAlarms = 1)),
  ],
  [
    'W04',
    'lines that share a duct',
    'uplinks.line.fates',
    (p) => (two(p), p.uplinks.forEach((u) => (u.fates = ['the duct']))),
    (p) => (two(p), void (the(p.uplinks, 'line').fates = ['the duct'])),
  ],
  [
    'W05',
    'a port forward that dies with its line',
    'uplinks.line.id',
    (p) => (two(p), handed(p, 'line')),
    (p) => (two(p), handed(p, 'line'), handed(p, 'spare')),
  ],
  [
    'W06',
    'a line faster than its gateway inspects',
    'uplinks.line.downMbps',
    (p) => (two(p), inspected(p), void (the(p.uplinks, 'line').downMbps = 901)),
    (p) => (two(p), inspected(p), void (the(p.uplinks, 'line').downMbps = 900)),
  ],
  [
    'W08',
    'a spare whose data is soon gone',
    'uplinks.spare.facts.capGb',
    (p) => (two(p), capped(p, 100)),
    (p) => (two(p), capped(p, 200)),
  ],
  // Below -100 dBm or below the noise: common practice, without a source.
  [
    'W15',
    'a cellular line that hears little',
    'uplinks.line.facts.cellular.rsrpDbm',
    (p) => heard(p, -101, 5),
    (p) => heard(p, -100, 0),
  ],
  [
    'W15',
    'a cellular line in noise',
    'uplinks.line.facts.cellular.rsrpDbm',
    (p) => heard(p, -70, -1),
    (p) => heard(p, -70, 0),
  ],
  [
    'W09',
    'a line that returns at once',
    'uplinks.line.holdDownS',
    (p) => (two(p), void (the(p.uplinks, 'line').holdDownS = 0)),
    (p) => two(p),
  ],
  ['W10', 'nobody told', 'site.toldTo', (p) => two(p), (p) => (two(p), void (p.site.toldTo = 'the Keeper'))],
  [
    'V01',
    'one key for two',
    'tunnels.wg.peers.b.publicKey',
    (p) => tunnelled(p, { publicKey: KEY }, { publicKey: KEY }),
    (p) => tunnelled(p, { publicKey: KEY }, {}),
  ],
  [
    'V02',
    'two peers with the same addresses',
    'tunnels.wg.peers.b.allowed',
    (p) => tunnelled(p, {}, { allowed: ['10.20.1.0/24'] }),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V03',
    'nobody can dial in',
    'tunnels.wg.peers',
    (p) => (tunnelled(p, { endpoint: null }, {}), void (the(p.uplinks, 'line').outside = 'shared')),
    (p) => (tunnelled(p, {}, {}), void (the(p.uplinks, 'line').outside = 'shared')),
  ],
  [
    'V04',
    'a far LAN that is here too',
    'tunnels.wg.peers.b.allowed',
    (p) => tunnelled(p, {}, { allowed: ['10.9.10.0/24'] }),
    (p) => tunnelled(p, {}, { allowed: ['10.19.10.0/24'] }),
  ],
  [
    'V05',
    'a tunnel that no rule opens',
    'tunnels.wg.peers.a',
    (p) => (tunnelled(p, {}, {}), void rules(p).pop()),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V06',
    'public addresses inside a tunnel',
    'tunnels.wg.address',
    (p) => (tunnelled(p, {}, {}), void (p.tunnels[0]!.address = '172.32.0.1/24')),
    (p) => (tunnelled(p, {}, {}), void (p.tunnels[0]!.address = '172.31.0.1/24')),
  ],
  [
    'V07',
    'a modem in front that keeps the calls',
    'uplinks.line.facts.modemForwards',
    (p) => (tunnelled(p, { endpoint: null }, {}), void (the(p.uplinks, 'line').facts.modem = 'routing')),
    (plan) => (
      tunnelled(plan, { endpoint: null }, {}),
      void Object.assign(the(plan.uplinks, 'line').facts, { modem: 'routing', modemForwards: true })
    ),
  ],
  [
    'V08',
    'a changing address without a name',
    'tunnels.wg.publicName',
    (p) => (tunnelled(p, { endpoint: null }, {}), void (p.tunnels[0]!.publicName = null)),
    (p) => tunnelled(p, { endpoint: null }, {}),
  ],
  [
    'V17',
    'a name that follows its address late',
    'tunnels.wg.nameEveryS',
    (p) => tunnelled(p, { endpoint: null }, {}),
    (p) => (tunnelled(p, { endpoint: null }, {}), void (the(p.uplinks, 'line').kind = 'static')),
  ],
  // RFC 4787 section 4.3 (REQ-5): a mapping of UDP lasts two minutes at least.
  [
    'V20',
    'a tunnel from behind a translation without a keepalive',
    'tunnels.wg.peers.a.keepaliveS',
    (p) => (tunnelled(p, { keepaliveS: null }, {}), void (the(p.uplinks, 'line').outside = 'shared')),
    (p) => tunnelled(p, { keepaliveS: null }, {}),
  ],
  [
    'V20',
    'a keepalive that is too seldom',
    'tunnels.wg.peers.a.keepaliveS',
    (p) => tunnelled(p, { endpoint: null, keepaliveS: 121 }, {}),
    (p) => tunnelled(p, { endpoint: null, keepaliveS: 120 }, {}),
  ],
  [
    'V18',
    'a translation that is not one to one',
    'tunnels.wg.mapped.m',
    (p) => known(p, '10.99.10.0/25'),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V18',
    'a translation to addresses that are somebody’s',
    'tunnels.wg.mapped.m',
    (p) => known(p, '10.30.1.0/24'),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V18',
    'a translation that the far end knows nothing of',
    'tunnels.wg.mapped.m',
    (p) => known(p, '10.99.10.0/24'),
    (p) => tunnelled(p, {}, {}),
  ],
  [
    'V19',
    'a peer with two keys',
    'tunnels.wg.peers.a.next',
    (p) => tunnelled(p, { publicKey: KEY, next: { publicKey: OTHER_KEY, until: '2026-12-09' } }, {}),
    (p) => tunnelled(p, { publicKey: KEY }, {}),
  ],
  [
    'V01',
    'a next key that is another’s',
    'tunnels.wg.peers.b.next',
    (p) => tunnelled(p, { publicKey: KEY }, { next: { publicKey: KEY, until: '2026-12-09' } }),
    (p) => tunnelled(p, { publicKey: KEY }, { next: { publicKey: OTHER_KEY, until: '2026-12-09' } }),
  ],
  // 10 and 100 Mb/s share alike: half of it on a tenth and an eleventh of the speed.
  [
    'W14',
    'shares that do not follow the speeds',
    'uplinks.spare.weight',
    (p) => shared(p, 10, 1),
    (p) => shared(p, 100, 1),
  ],
  [
    'V10',
    'the narrower line of a tunnel',
    'tunnels.wg.peers.a.downMbps',
    (p) => tunnelled(p, { downMbps: 200, upMbps: 50 }, {}),
    (p) => tunnelled(p, { downMbps: 200 }, {}),
  ],
  // Over IPv4: 1500 - 60 = 1440; behind PPPoE (RFC 2516) 8 less.
  [
    'V09',
    'an MTU too large',
    'tunnels.wg.mtu',
    (plan) => (
      tunnelled(plan, {}, {}),
      void (plan.tunnels[0]!.mtu = 1440),
      void (the(plan.uplinks, 'line').kind = 'pppoe')
    ),
    (p) => (tunnelled(p, {}, {}), void (p.tunnels[0]!.mtu = 1440)),
  ],
  // By IPv6 20 more: 1500 - 80 = 1420.
  [
    'V09',
    'an MTU too large for a peer that is called by IPv6',
    'tunnels.wg.mtu',
    (p) => (tunnelled(p, { endpoint: '[2001:db8::1]:51820' }, {}), void (p.tunnels[0]!.mtu = 1421)),
    (p) => (tunnelled(p, { endpoint: '[2001:db8::1]:51820' }, {}), void (p.tunnels[0]!.mtu = 1420)),
  ],
  [
    'P01',
    'something passes that nobody means',
    'cells.servers.internet',
    (p) => void rules(p).push(rule('x', inNetwork('servers'), internet, ['web'], '') as never),
    (plan) => {
      rules(plan).push(rule('x', inNetwork('servers'), internet, ['web'], '') as never)
      plan.intents.push(intent('x', inNetwork('servers'), internet, ['web'], 'updates') as never)
    },
  ],
  [
    'P02',
    'a rule that can never match',
    'policies.gate.rules.x',
    (p) => void rules(p).push(rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], '') as never),
    (p) => void rules(p).unshift(rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], '') as never),
  ],
  [
    'P03',
    'a service of a rule that another refuses first',
    'policies.gate.rules.r1.services',
    (plan) =>
      void rules(plan).unshift({
        ...rule('x', inNetwork('staff'), inNetwork('servers'), ['ping'], ''),
        action: 'drop',
      } as never),
    (plan) =>
      void rules(plan).unshift({
        ...rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.128/25' }, ['ping'], ''),
        action: 'drop',
      } as never),
  ],
  [
    'P09',
    'a refusal of what the default refuses anyway',
    'policies.gate.rules.x',
    (plan) =>
      void rules(plan).push({
        ...rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''),
        action: 'drop',
      } as never),
    (plan) =>
      void rules(plan).push({
        ...rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''),
        action: 'reject',
      } as never),
  ],
  [
    'P09',
    'a rule whose work a later one does as well',
    'policies.gate.rules.x',
    (plan) =>
      void rules(plan).unshift(
        rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/28' }, ['https'], '') as never,
      ),
    (plan) =>
      void rules(plan).unshift({
        ...rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/28' }, ['https'], ''),
        log: true,
      } as never),
  ],
  [
    'P10',
    'a rule for a prefix that is nobody’s',
    'policies.gate.rules.x',
    (plan) =>
      void rules(plan).push(
        rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.77.0.0/16' }, ['ssh'], '') as never,
      ),
    (plan) => (
      rules(plan).push(
        rule('x', inNetwork('staff'), { kind: 'prefix', prefix: '10.77.0.0/16' }, ['ssh'], '') as never,
      ),
      void plan.routes.push({
        id: 'r',
        deviceId: 'gate',
        prefix: '10.77.0.0/16',
        via: '10.9.20.10',
        metric: 0,
        note: '',
      } as never)
    ),
  ],
  [
    'P10',
    'a rule for a device whose address is leased',
    'policies.gate.rules.x',
    (p) => void rules(p).push(rule('x', theDevice('desk'), inNetwork('servers'), ['ssh'], '') as never),
    (p) => void rules(p).push(rule('x', theDevice('box'), internet, ['ssh'], '') as never),
  ],
  ['P04', 'a refusal one way', 'policies.gate.rules.no', (p) => (refused(p), void p.intents.pop()), refused],
  [
    'P05',
    'guests who reach the switches',
    'cells.staff.management',
    (plan) => (
      guests(plan),
      void rules(plan).push(rule('x', inNetwork('staff'), inNetwork('management'), ['https'], '') as never),
      void plan.intents.push(intent('x', inNetwork('staff'), inNetwork('management'), ['https'], '') as never)
    ),
    guests,
  ],
  [
    'P05',
    'guests who reach the switches and are not meant to',
    'cells.staff.management',
    (plan) => (
      guests(plan),
      void rules(plan).push(rule('x', inNetwork('staff'), inNetwork('management'), ['https'], '') as never)
    ),
    guests,
  ],
  [
    'P06',
    'an intent for a network without anybody',
    'intents.x',
    (plan) => (
      plan.networks.push(
        network('empty', 40, 'Empty', '10.9.40.0/24', '10.9.40.1', null, 1, [], 'gate') as never,
      ),
      void plan.intents.push(intent('x', inNetwork('empty'), internet, ['web'], 'They go out') as never)
    ),
    (plan) =>
      void plan.networks.push(
        network('empty', 40, 'Empty', '10.9.40.0/24', '10.9.40.1', null, 1, [], 'gate') as never,
      ),
  ],
  [
    'P08',
    'a refusal by IPv4 address that IPv6 passes by',
    'cells.staff.servers.six',
    (p) => (both(p), byAddress(p)),
    byAddress,
  ],
  [
    'F04',
    'guests who hear each other',
    'ssids.s.isolation',
    (p) => (guests(p), outOnly(p), void (p.ssids[0]!.isolation = false)),
    (p) => (guests(p), outOnly(p)),
  ],
  [
    'F04',
    'guests by what they may, and not those who may more',
    'ssids.s.isolation',
    (p) => (guests(p), outOnly(p), void (p.ssids[0]!.isolation = false)),
    (p) => (guests(p), void (p.ssids[0]!.isolation = false)),
  ],
  [
    'W17',
    'an address of its own that is the provider’s shared one',
    'uplinks.line.facts.address',
    (plan) =>
      void Object.assign(the(plan.uplinks, 'line'), {
        outside: 'own',
        facts: { ...the(plan.uplinks, 'line').facts, address: '100.64.9.4/30' },
      }),
    (p) => void Object.assign(the(p.uplinks, 'line').facts, { address: '198.51.100.4/30' }),
  ],
  ['V11', 'some go by a provider’s tunnel', 'policyRoutes.v', provided, (p) => tunnelled(p, {}, {})],
  [
    'V12',
    'their names are looked up outside it',
    'policyRoutes.v',
    provided,
    (p) => (provided(p), void (staff(p).options.dns = ['10.50.0.1'])),
  ],
  ['V14', 'their IPv6 goes beside it', 'policyRoutes.v', (p) => (both(p), provided(p)), provided],
  [
    'W16',
    'a forward to an address of the pool',
    'forwards.line.toAddress',
    (p) => (handed(p, 'line'), void (p.forwards[0]!.toAddress = '10.9.10.150')),
    (p) => handed(p, 'line'),
  ],
  [
    'W13',
    'a forward that people inside will call in vain',
    'forwards.line.hairpin',
    (p) => handed(p, 'line'),
    (p) => (handed(p, 'line'), void (p.forwards[0]!.hairpin = true)),
  ],
  [
    'V15',
    'two ends of IPsec that do not fit',
    'ipsec.far',
    (p) => sealed(p, { subnets: ['10.2.0.0/16'] }),
    (p) => sealed(p, {}),
  ],
  [
    'V16',
    'an algorithm that is forbidden',
    'ipsec.far',
    (plan) =>
      sealed(plan, { esp: { encryption: ['DES', 'AES_GCM_16/256'], integrity: [], prf: [], groups: [19] } }),
    (p) => sealed(p, { esp: { encryption: ['AES_GCM_16/256'], integrity: [], prf: [], groups: [19] } }),
  ],
  [
    'P01',
    'something passes at a time when nobody means it',
    'cells.servers.internet',
    (plan) => (
      hours(plan),
      void rules(plan).push({
        ...rule('x', inNetwork('servers'), internet, ['web'], ''),
        when: 'office',
      } as never)
    ),
    (plan) => {
      hours(plan)
      rules(plan).push({ ...rule('x', inNetwork('servers'), internet, ['web'], ''), when: 'office' } as never)
      plan.intents.push({
        ...intent('x', inNetwork('servers'), internet, ['web'], 'updates'),
        when: 'office',
      } as never)
    },
  ],
  [
    'P01',
    'an intent for always that a rule meets in office hours alone',
    'intents.x',
    (plan) => (
      hours(plan),
      void rules(plan).push({
        ...rule('x', inNetwork('servers'), internet, ['web'], ''),
        when: 'office',
      } as never),
      void plan.intents.push(intent('x', inNetwork('servers'), internet, ['web'], 'updates') as never)
    ),
    (plan) => (
      hours(plan),
      void rules(plan).push(rule('x', inNetwork('servers'), internet, ['web'], '') as never),
      void plan.intents.push(intent('x', inNetwork('servers'), internet, ['web'], 'updates') as never)
    ),
  ],
  [
    'P02',
    'a rule of the same hours as the one that takes all of it',
    'policies.gate.rules.y',
    (p) => (hours(p), timedPair(p, 'office')),
    (p) => (hours(p), timedPair(p, null)),
  ],
  [
    'P07',
    'a rule of a schedule that is gone',
    'policies.gate.rules.x',
    (plan) =>
      void rules(plan).push({
        ...rule('x', inNetwork('staff'), inNetwork('servers'), ['ssh'], ''),
        action: 'drop',
        when: 'holidays',
      } as never),
    (plan) => (
      hours(plan),
      void rules(plan).push({
        ...rule('x', inNetwork('staff'), inNetwork('servers'), ['ssh'], ''),
        action: 'drop',
        when: 'office',
      } as never)
    ),
  ],
  [
    'P07',
    'a group whose member is gone',
    'groups.g.members',
    (plan) =>
      void plan.groups.push({
        id: 'g',
        name: 'G',
        members: [inNetwork('staff'), inNetwork('attic')],
      } as never),
    (p) => void p.groups.push({ id: 'g', name: 'G', members: [inNetwork('staff')] } as never),
  ],
  [
    'P07',
    'a default of a pair whose end is gone',
    'policies.gate.pairs.d',
    (plan) =>
      void plan.policies[0]!.pairs.push({
        id: 'd',
        from: inNetwork('attic'),
        to: internet,
        action: 'drop',
      } as never),
    (plan) =>
      void plan.policies[0]!.pairs.push({
        id: 'd',
        from: inNetwork('servers'),
        to: internet,
        action: 'drop',
      } as never),
  ],
  [
    'P07',
    'a rule that names a group there is none of',
    'policies.gate.rules.x',
    (p) => void rules(p).push(rule('x', { kind: 'group', id: 'g' }, internet, ['web'], '') as never),
    (plan) => (
      plan.groups.push({ id: 'g', name: 'G', members: [inNetwork('servers')] } as never),
      void rules(plan).push(rule('x', { kind: 'group', id: 'g' }, internet, ['web'], '') as never)
    ),
  ],
  [
    'P07',
    'a rule that names what is not there',
    'policies.gate.rules.x',
    (p) => void rules(p).push(rule('x', inNetwork('attic'), internet, ['web'], '') as never),
    (p) => void rules(p).push(rule('x', inNetwork('servers'), internet, ['web'], '') as never),
  ],
]

describe('the small site', () => {
  it('is quiet', () => expect(findingsOf(() => undefined)).toEqual([]))
})

it('every code has a case of its own', () => {
  const codes = [
    ...readFileSync(new URL('finding.ts', import.meta.url), 'utf8').matchAll(/'([A-Z]\d\d)'/g),
  ].map((m) => m[1])
  expect(codes.length).toBeGreaterThan(40)
  expect(codes.filter((code) => !CASES.some(([c]) => c === code))).toEqual([])
})

describe.each(CASES)('%s: %s', (code, _, place, raises, nearby) => {
  it('is found, at its place', () => {
    expect(ofCode(raises, code).map((f) => f.place.join('.'))).toContain(place)
  })
  it('is not found in a plan close by', () => {
    expect(ofCode(nearby, code)).toEqual([])
  })
  it('is gone after its mend, where it has one', () => {
    const plan = site(raises)
    for (const finding of repaired(plan).filter((f) => f.code === code && f.mend)) {
      const mended = applyChanges(plan, finding.mend?.changes ?? [])
      expect(mended.ok).toBe(true)
      if (mended.ok)
        expect(analyse(indexPlan(mended.value), []).findings.map(findingKey)).not.toContain(
          findingKey(finding),
        )
    }
  })
})

describe('mends', () => {
  const MENDED: readonly FindingCode[] = [
    'A01',
    'A02',
    'A03',
    'A04',
    'A10',
    'A16',
    'A24',
    'A11',
    'A12',
    'E01',
    'E02',
    'E11',
    'E08',
    'E10',
    'E13',
    'F04',
    'W07',
    'W03',
    'W17',
    'W13',
    'V09',
    'P01',
    'P02',
    'P03',
    'P04',
    'P05',
    'P06',
    'P07',
    'P08',
    'P09',
    'P10',
    'V04',
    'V20',
    'W14',
  ]
  it('exist where the repair is certain, and only there', () => {
    const has = CASES.filter(([code, , , raises]) => ofCode(raises, code).some((f) => f.mend)).map(
      ([code]) => code,
    )
    expect(new Set(has)).toEqual(new Set(MENDED))
  })
  it('copper between buildings moves to free fibre ports with their light, and nothing else is said of it then', () => {
    const plan = gullhavenPlan()
    const finding = analyse(indexPlan(plan), []).findings.find((f) => f.code === 'E07')
    const mended = applyChanges(plan, finding?.mend?.changes ?? [])
    if (!mended.ok) throw new Error('the mend does not fit')
    expect(the(mended.value.links, 'lab-switch.21-boat-switch.1')).toMatchObject({
      a: { portId: 'p27' },
      b: { portId: 'p9' },
      medium: { kind: 'fibre', grade: 'OS2', lengthM: 140 },
    })
    expect(
      analyse(indexPlan(mended.value), [])
        .findings.filter((f) => ['E02', 'E06', 'E07', 'E10'].includes(f.code))
        .map((f) => f.place.join('.')),
    ).toEqual(['devices.lab-switch.ports.p22'])
  })
  it('a pool grows over nothing that is fixed', () => {
    const crowded: Change = (plan) => {
      staff(plan).expected = 150
      staff(plan).fixed.push(fixed('10.9.10.220', 'Printer', null) as never)
    }
    expect(ofCode(crowded, 'A10').map((f) => f.mend)).toEqual([null])
  })
})

describe('a tunnel', () => {
  const found = (change: Change, code: string) =>
    analyse(indexPlan(site(change)), []).findings.filter((f) => f.code === code)
  it('carries what the narrower of both lines does: one end’s upload is the other’s download', () => {
    // Ours 100 down, 20 up.
    expect(found((p) => tunnelled(p, { downMbps: 200, upMbps: 50 }, {}), 'V10')[0]?.values).toMatchObject({
      out: 20,
      outBy: 'Line',
      back: 50,
      backBy: 'a',
    })
    expect(found((p) => tunnelled(p, { downMbps: 10, upMbps: 500 }, {}), 'V10')[0]?.values).toMatchObject({
      out: 10,
      outBy: 'a',
      back: 100,
      backBy: 'Line',
    })
  })
  it('is lost for as long as a name is looked after and remembered, together', () => {
    expect(found((p) => tunnelled(p, { endpoint: null }, {}), 'V17')[0]?.values['most']).toBe(360)
  })
  it('that meets a network of ours has it moved where neither end has anything', () => {
    const clash: Change = (p) => tunnelled(p, {}, { allowed: ['10.9.10.0/24', '10.9.0.0/23'] })
    const plan = site(clash)
    const mend = found(clash, 'V04')[0]?.mend
    const moved = mend && applyChanges(plan, mend.changes)
    if (!moved?.ok) throw new Error('not mended')
    // The first /24 of 10.9.0.0/16 that is not far, not ours and not the tunnel's.
    expect(moved.value.networks.find((n) => n.id === 'staff')?.subnet).toBe('10.9.2.0/24')
    expect(analyse(indexPlan(moved.value), []).findings.filter((f) => f.code === 'V04')).toEqual([])
  })
})

describe('one rule that mends what the grid shows', () => {
  const mended = (change: Change, at: string) => {
    const plan = site(change)
    const mend = repaired(plan).find((f) => f.place.join('.') === at)?.mend
    const after = mend && applyChanges(plan, mend.changes)
    if (!after?.ok) throw new Error('not mended')
    const rule = after.value.policies[0]!.rules.find(
      (r) => !plan.policies[0]!.rules.some((o) => o.id === r.id),
    )!
    return {
      rule,
      at: after.value.policies[0]!.rules.indexOf(rule),
      left: analyse(indexPlan(after.value), []).findings.map((f) => f.code),
    }
  }
  it('of two services that pass, refuses the one that nobody means', () => {
    const {
      rule: added,
      at,
      left,
    } = mended((p) => void (the(rules(p), 'r1').services = ['https', 'ping', 'ssh']), 'cells.staff.servers')
    expect([added.action, added.services, at]).toEqual(['drop', ['ssh'], 0])
    expect(left).not.toContain('P01')
  })
  it('lets an intent through before the rule that refuses it', () => {
    const shut: Change = (plan) =>
      void rules(plan).splice(1, 0, {
        ...rule('no', inNetwork('staff'), internet, [], ''),
        action: 'drop',
      } as never)
    const { rule: added, at } = mended(shut, 'intents.i2')
    expect([added.action, added.from, added.to, added.services, at]).toEqual([
      'accept',
      inNetwork('staff'),
      internet,
      [],
      1,
    ])
  })
  it('is not told where a refusal would take away what is meant, or no rule would help', () => {
    // Staff may ask one server; a rule lets them ask all.
    const one: Change = (plan) =>
      void (
        (the(plan.intents, 'i1').to = theDevice('box') as never),
        strip(plan),
        plan.devices.push(hosts('second', 'Second', 'Room', 'servers', 1) as never),
        servers(plan).fixed.push(fixed('10.9.20.11', 'Second', 'second') as never),
        plan.links.push(link('strip:2', 'second:1', cat6(2)) as never),
        void (portOf(plan, 'sw', 'p4').mode = access(20) as never)
      )
    expect(ofCode(one, 'P01').map((f) => [f.values['kind'], f.mend])).toEqual([['excess', null]])
    expect(ofCode((p) => void (p.uplinks.length = 0), 'P01').map((f) => f.mend)).toEqual([null])
  })
  it('by IPv6 alone where IPv4 has it right', () => {
    const { rule: added, left } = mended((p) => (both(p), byAddress(p)), 'cells.staff.servers.six')
    expect([added.from.kind, added.to.kind]).toEqual(['prefix', 'prefix'])
    expect(left).not.toContain('P08')
  })
})

describe('a rule that is idle', () => {
  it('has work again as soon as the rule before it is gone, or lets less through', () => {
    const plan = site(
      (p) => void rules(p).push(rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], '') as never),
    )
    const idle = (now: typeof plan) =>
      analyse(indexPlan(now), [])
        .findings.filter((f) => f.code === 'P02')
        .map((f) => f.place.at(-1))
    expect(idle(plan)).toEqual(['x'])
    const before = plan.policies[0]!.rules[0]!
    const at = ['policies', 'gate', 'rules', before.id]
    const edited = (change: Parameters<typeof applyChanges>[1][number]) => {
      const next = applyChanges(plan, [change])
      if (!next.ok) throw new Error(JSON.stringify(next.problems))
      return idle(next.value)
    }
    expect(edited({ kind: 'removed', path: at, before: before as never, after: null })).toEqual([])
    expect(
      edited({ kind: 'set', path: [...at, 'services'], before: before.services as never, after: ['ping'] }),
    ).toEqual([])
  })
})

describe('intents', () => {
  it('one that is not met is told once, with what does not pass', () => {
    const found = ofCode((p) => void rules(p).shift(), 'P01')
    expect(found.map((f) => [f.values['kind'], f.place.join('.'), f.values['services']])).toEqual([
      ['missing', 'intents.i1', 'tcp 443, icmp'],
    ])
  })
  it('one that must survive a failure is tried under it', () => {
    const survive: Change = (p) => void (the(p.intents, 'i2').survives = ['line'])
    expect(ofCode(survive, 'P01').map((f) => f.values['under'])).toEqual(['Line'])
    expect(ofCode((p) => (survive(p), spare(p)), 'P01')).toEqual([])
  })
  it('what a knot or a wrong gateway already explains is not told again', () => {
    expect(ofCode((p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10) as never), 'P01')).toEqual([])
    expect(ofCode((p) => void (staff(p).gateway = '10.9.11.1'), 'P01')).toEqual([])
  })
})

describe('the demo', () => {
  const list = (findings: readonly Finding[]) => findings.map((f) => `${f.severity} ${f.code}`)
  it('has one blocker and a handful of lesser findings', () => {
    expect(list(analyse(indexPlan(gullhavenPlan()), []).findings)).toEqual([
      'blocker E02',
      'warning A12',
      'warning A16',
      'warning D08',
      'warning E07',
      'warning P02',
      'warning W01',
      'warning W07',
      'note A15',
      'note E04',
      'note V10',
      'note V17',
      'note W02',
      'note W11',
    ])
  })
  it('as a clean copy says nothing but notes', () => {
    expect(list(analyse(indexPlan(gullhavenClean()), []).findings)).toEqual([
      'note A15',
      'note E04',
      'note V10',
      'note V17',
      'note W11',
    ])
  })
  it('is quiet after its mends, but for facts that somebody must find out', () => {
    let plan = gullhavenPlan()
    for (let n = 0; n < 10; n++) {
      const next = analyse(indexPlan(plan), []).findings.find((f) => f.mend)
      if (!next?.mend) break
      const mended = applyChanges(plan, next.mend.changes)
      if (!mended.ok) throw new Error('a mend does not fit')
      plan = mended.value
    }
    expect(list(analyse(indexPlan(plan), []).findings)).toEqual([
      'warning D08',
      'warning W01',
      'note A15',
      'note E04',
      'note V10',
      'note V17',
      'note W02',
      'note W11',
    ])
  })
  it('findings come in the same order whatever the order of networks', () => {
    const plan = gullhavenPlan()
    const turned = { ...plan, networks: [...plan.networks].reverse() }
    expect(list(analyse(indexPlan(turned), []).findings)).toEqual(list(analyse(indexPlan(plan), []).findings))
  })
})

describe('plans that are broken in themselves', () => {
  it('end in findings, never in an exception', () => {
    const broken: readonly Change[] = [
      (p) => void (p.devices = []),
      (p) => void (p.networks = []),
      (p) => void (p.uplinks = []),
      (p) => void (p.policies = []),
      (p) => void (staff(p).subnet = 'no subnet'),
      (p) => void (staff(p).gateway = ''),
      (p) => void (staff(p).routerId = 'nobody'),
      (p) => void p.links.push(link('nobody:1', 'sw:9', cat6(1)) as never),
      (p) => void p.links.push(link('sw:1', 'sw:4', cat6(1)) as never),
      (plan) =>
        void plan.networks.push(
          network('twin', 10, 'Twin', '10.9.10.0/24', '10.9.10.1', null, 0, [], 'gate') as never,
        ),
      (p) => void (rules(p).length = 0),
      (p) => void the(p.intents, 'i1').services.push('unknown'),
    ]
    for (const change of broken)
      expect(() => analyse(indexPlan(site(change)), ['gate', 'nothing'])).not.toThrow()
  })
})
