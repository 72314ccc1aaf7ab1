// Changes to the small site that findings are tried with.
import { aPeer, aTunnel } from '../fixtures/tunnels'
import { portOf, the, type LoosePlan } from '../plans'
import {
  access,
  cat6,
  device,
  fibre,
  hosts,
  inNetwork,
  intent,
  ipsecEnd,
  link,
  plain,
  ports,
  rule,
  trunk,
  draft,
  ssid,
} from '#server/demo/build'
import { BLANK_CELLULAR, BLANK_PORT } from '#core/edit'
import { makeSerial, modelNamed } from '#core/queries'
import type { Model, OpticName, PoeLoad, PortGroup } from '#core/schema'

export type Change = (plan: LoosePlan) => void

export const staff = (p: LoosePlan) => the(p.networks, 'staff')
export const servers = (p: LoosePlan) => the(p.networks, 'servers')
export const rules = (p: LoosePlan) => p.policies[0]?.rules ?? []
export const strip: Change = (plan) => {
  plan.devices.push(device('strip', 'Strip', 'unmanaged', '', 'Room', null, ports({ 1: plain, 2: plain })))
  plan.links.push(link('sw:4', 'strip:1', cat6(2)))
}
export const spare: Change = (plan) => {
  the(plan.devices, 'gate').ports.push({ id: 'p3', name: '3', mode: { mode: 'wan' }, ...BLANK_PORT })
  the(plan.devices, 'internet').ports.push({ id: 'p2', name: '2', mode: { mode: 'plain' }, ...BLANK_PORT })
  plan.links.push(link('internet:2', 'gate:3', { kind: 'line' }))
  plan.uplinks.push({ ...structuredClone(the(plan.uplinks, 'line')), id: 'spare', portId: 'p3', priority: 2 })
}

/** Two lines, the first well watched. */
export const two: Change = (plan) => {
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
export const routed = (plan: LoosePlan, prefix: string, via: string, metric: number) =>
  void plan.routes.push({ id: `to-${plan.routes.length}`, deviceId: 'gate', prefix, via, metric })
export const probeOf = (p: LoosePlan) => the(p.uplinks, 'line').probe!
export const handed = (plan: LoosePlan, uplinkId: string) =>
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
export const inspected = (plan: LoosePlan) => {
  the(plan.devices, 'gate').model = 'G4'
  the(plan.uplinks, 'spare').downMbps = 10
}
/** An office that is reached by a tunnel of these addresses. */
export const farTunnel = (plan: LoosePlan, tunnel: string) =>
  void plan.brief.far.push({ id: 'f', name: 'Office', subnets: ['10.20.0.0/24'], tunnel })
export const typed: (p: LoosePlan, ip6: string) => void = (plan, ip6) => {
  Object.assign(servers(plan), { prefix6: '2001:db8:5:20::/64', mode6: 'slaac' })
  servers(plan).fixed[0]!.ip6 = ip6
}
export const heard = (plan: LoosePlan, rsrpDbm: number, sinrDb: number) =>
  void (the(plan.uplinks, 'line').facts.cellular = { ...BLANK_CELLULAR, rsrpDbm, sinrDb })
export const capped = (plan: LoosePlan, gb: number) => {
  the(plan.uplinks, 'line').usualGbPerDay = 24
  the(plan.uplinks, 'spare').facts = { ...the(plan.uplinks, 'spare').facts, capGb: gb }
}
/** The spare beside the line, with so much speed and weight. */
export const shared = (plan: LoosePlan, mbps: number, weight: number) => (
  two(plan),
  void Object.assign(the(plan.uplinks, 'spare'), { priority: 1, downMbps: mbps, weight })
)
export const OTHER_KEY = 'xTIBA5rboUvnH4htodjb6e697QjLERt1NAB4mZqp8Dg='
/** Staff known to the peers by another prefix. */
export const known = (plan: LoosePlan, outside: string) => (
  tunnelled(plan, {}, {}),
  void Object.assign(plan.tunnels[0]!, { mapped: [{ id: 'm', inside: '10.9.10.0/24', outside }] })
)
export const hours = (plan: LoosePlan) =>
  void plan.schedules.push({
    id: 'office',
    name: 'Office hours',
    days: [1, 2, 3, 4, 5],
    from: '08:00',
    to: '18:00',
  })
/** A refusal in office hours, and another of the same after it. */
export const timedPair = (plan: LoosePlan, when: string | null) =>
  void rules(plan).push(
    {
      ...rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''),
      action: 'drop',
      when: 'office',
    },
    { ...rule('y', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''), action: 'drop', when },
  )
export const KEY = 'hSDwCYkwp1R0i33ctD73Wg2/Og0mOBr066SpjqqbTmo='
/** Two far sites in one tunnel, which this gateway dials, and one rule for it. */
export const tunnelled = (plan: LoosePlan, first: object, second: object) => {
  const peer = (id: string, allowed: string, more: object) =>
    aPeer({
      id,
      name: id,
      allowed: [allowed],
      theirAllowed: ['10.9.0.0/16'],
      endpoint: `${id}.example:51820`,
      keepaliveS: 25,
      ...more,
    })
  plan.tunnels.push(
    aTunnel({
      publicName: 'vpn.example',
      peers: [peer('a', '10.20.0.0/22', first), peer('b', '10.30.0.0/22', second)],
    }),
  )
  rules(plan).push(rule('wg', { kind: 'tunnel', id: 'wg' }, inNetwork('servers'), ['https'], ''))
}
/** Staff may not call the servers, and back they may: an intent or not. */
export const refused: Change = (plan) => {
  rules(plan).unshift({
    ...rule('no', inNetwork('staff'), inNetwork('servers'), [], ''),
    action: 'drop',
  })
  rules(plan).push(rule('back', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''))
  plan.intents = plan.intents.filter((i) => i.id !== 'i1')
  plan.intents.push(intent('back', inNetwork('servers'), inNetwork('staff'), ['ssh'], 'Servers call staff'))
}
/** Staff may go out and no more. */
export const outOnly: Change = (plan) => {
  plan.intents = plan.intents.filter((i) => i.id !== 'i1')
  void rules(plan).shift()
}
/** Staff as guests: kept apart in the air. */
export const guests: Change = (plan) => {
  ap(plan)
  plan.ssids.push(ssid({ id: 's', name: 'Air', networkId: 'staff', isolation: true, apIds: ['ap'] }))
}
export const both: Change = (plan) => {
  for (const [id, prefix6] of [
    ['staff', '2001:db8:5:10::/64'],
    ['servers', '2001:db8:5:20::/64'],
  ] as const)
    Object.assign(the(plan.networks, id), { prefix6, mode6: 'slaac' })
  the(plan.uplinks, 'line').facts.delegated6 = '2001:db8:5::/48'
  plan.site.prefix6 = '2001:db8:5::/48'
}
/** Staff are let to all servers but one address, which no intent names either. */
export const byAddress: Change = (plan) => {
  rules(plan).unshift({
    ...rule('no', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/24' }, ['ssh'], ''),
    action: 'drop',
  })
  rules(plan).push(rule('yes', inNetwork('staff'), inNetwork('servers'), ['ssh'], ''))
}
export const provided: Change = (plan) => {
  tunnelled(plan, { kind: 'provider', allowed: ['0.0.0.0/0'], theirAllowed: ['10.9.200.1/32'] }, {})
  plan.policyRoutes.push({
    id: 'v',
    deviceId: 'gate',
    from: inNetwork('staff'),
    services: [],
    out: { kind: 'tunnel', id: 'wg' },
    orElse: 'refuse',
    note: '',
  })
}
/** An IPsec connection whose ends fit, but for what is said of ours. */
export const sealed = (plan: LoosePlan, ours: object, theirs: object = {}) =>
  void plan.ipsec.push({
    id: 'far',
    name: 'Far',
    deviceId: 'gate',
    ours: { ...ipsecEnd('a.example', '198.51.100.1', ['10.9.0.0/16'], true), ...ours },
    theirs: { ...ipsecEnd('b.example', '198.51.100.2', ['10.2.0.0/16'], false), ...theirs },
  })
export const box = (plan: LoosePlan, serial: string, id = 'x', more: object = {}) =>
  void plan.brief.equipment.push({ id, model: '', serial, mac: null, deviceId: null, ...more })
/** Two boxes with serials of their own. */
export const boxes = (plan: LoosePlan, first: object, second: object) => {
  box(plan, makeSerial('GH', '7A01K5R'), 'x', first)
  box(plan, makeSerial('GH', '7A02K5R'), 'y', second)
}
export const ap = (plan: LoosePlan) => {
  plan.site.country = 'XG'
  plan.devices.push(device('ap', 'AP', 'access-point', 'A2', 'Room', null, ports({ 1: trunk(10) })))
  portOf(plan, 'sw', 'p4').mode = trunk(10)
  plan.links.push(link('sw:4', 'ap:1', cat6(20)))
}
export const ring: Change = (plan) => {
  plan.devices.push(device('strip2', 'Strip 2', 'unmanaged', '', 'Room', null, ports({ 1: plain, 2: plain })))
  the(plan.devices, 'strip').ports.push({
    ...structuredClone(portOf(plan, 'strip', 'p2')),
    id: 'p3',
    name: '3',
  })
  plan.links.push(link('strip:2', 'strip2:1', cat6(1)), link('strip:3', 'strip2:2', cat6(1)))
}
export const MODEL = {
  ...(modelNamed('S8P') as Model),
  name: 'TEN',
  ports: [
    { ...((modelNamed('S8P') as Model).ports[0] as PortGroup), names: '1-9', speedsMbps: [1000, 10_000] },
  ],
  poeBudgetW: null,
}
export const tenGig = (plan: LoosePlan, lengthM: number) => {
  plan.models.push(draft(MODEL))
  the(plan.devices, 'sw').model = 'TEN'
  plan.devices.push(
    device('t', 'Ten', 'switch', 'TEN', 'Room', null, ports({ 1: access(10), 2: access(10) })),
  )
  portOf(plan, 'sw', 'p4').mode = access(10)
  plan.links.push(link('sw:4', 't:1', cat6(lengthM)))
}
export const bundle = (plan: LoosePlan, vlan: number) => {
  tenGig(plan, 10)
  the(plan.devices, 'sw').ports.push({
    ...structuredClone(portOf(plan, 'sw', 'p4')),
    id: 'p5',
    name: '5',
    mode: access(vlan),
  })
  plan.links.push(link('sw:5', 't:2', cat6(10)))
  for (const link of plan.links.slice(-2)) link.lag = 'up'
}
/** So many loads of class 4 at the switch's source, each drawing far less than its class. */
export const modest = (plan: LoosePlan, loads: number) => {
  heavy(plan, 2)
  the(plan.devices, 'sw').ports.push({
    ...structuredClone(portOf(plan, 'sw', 'p2')),
    id: 'p7',
    name: '7',
  })
  if (loads < 3) return
  the(plan.devices, 'loads').ports.push({
    ...structuredClone(portOf(plan, 'loads', 'p1')),
    id: 'p3',
    name: '3',
  })
  plan.links.push(link('sw:7', 'loads:3', cat6(0)))
}
/** A load of its own behind the switch, or behind an injector that gives so many volts of its own kind. */
export const fedBy = (plan: LoosePlan, load: PoeLoad, volts: number | null, lengthM = 20) => {
  injector(plan, 'lan', 'poe')
  const own = (name: string, as: string, group: Partial<PortGroup>, at: number) => {
    const model = draft(modelNamed(as) as Model)
    Object.assign(model.ports[at]!, group)
    plan.models.push({ ...model, name })
  }
  own('OWN', 'B5', { load }, 0)
  the(plan.devices, 'radio').model = 'OWN'
  if (volts !== null) own('OWN24', 'J24', { source: { standard: 'passive', volts, mostW: 30 } }, 1)
  the(plan.devices, 'inj').model = volts === null ? 'J30' : 'OWN24'
  ;(plan.links.at(-1) as { medium: unknown }).medium = cat6(lengthM)
}
/** Loads of so many watts in all at the switch's source, on short leads. */
export const heavy = (plan: LoosePlan, watts: number) => {
  plan.models.push({
    ...draft(MODEL),
    name: 'LOAD',
    kind: 'hosts',
    ports: [
      {
        ...draft(MODEL.ports[0]!),
        names: '*',
        source: null,
        load: { standard: 'ieee', class: 4, typicalW: watts / 2 },
      },
    ],
  })
  plan.devices.push(hosts('loads', 'Loads', 'Room', 'staff', 2, 2, 'LOAD'))
  for (const nth of [5, 6]) {
    the(plan.devices, 'sw').ports.push({
      ...structuredClone(portOf(plan, 'sw', 'p2')),
      id: `p${nth}`,
      name: String(nth),
    })
    plan.links.push(link(`sw:${nth}`, `loads:${nth - 4}`, cat6(0)))
  }
}
export const injector = (plan: LoosePlan, toSwitch: string, toRadio: string) => {
  plan.site.country = 'XG'
  plan.devices.push(
    device('inj', 'Injector', 'injector', 'J30', 'Room', null, ports({ lan: plain, poe: plain })),
    device('radio', 'Radio', 'bridge-radio', 'B5', 'Roof', null, ports({ lan: plain, radio: plain })),
  )
  plan.links.push(link(`sw:4`, `inj:${toSwitch}`, cat6(2)), link(`inj:${toRadio}`, 'radio:lan', cat6(20)))
}
export const lit = (plan: LoosePlan, first: OpticName | null, second: OpticName | null) => {
  plan.devices.push(device('s2', 'Second', 'switch', 'S8P', 'Room', null, ports({ 9: access(10) })))
  the(plan.devices, 'sw').ports.push({
    ...structuredClone(portOf(plan, 'sw', 'p2')),
    id: 'p9',
    name: '9',
    optic: first,
  })
  portOf(plan, 's2', 'p9').optic = second
  plan.links.push(link('sw:9', 's2:9', fibre('OS2', 140)))
}
