import fc from 'fast-check'
import {
  access,
  cat6,
  device,
  hosts,
  inNetwork,
  internet,
  link,
  network,
  plain,
  ports,
  rule,
  theDevice,
  trunk,
  wifi,
  ssid,
} from '#server/demo/build'
import { BLANK_PORT } from '#core/edit'
import type { Draft, PortMode } from '#core/schema'
import { the, type LoosePlan } from '../plans'
import { peer, rules, tunnel, type Change } from './parts'

// Whole parts of a site, each with a mechanism of its own, that plans made by chance are put together from.
// Each may be added once, to the site of two switches and two lines, together with any others.

/** A new port of a device; `device:port` as `link` takes it. */
function freePort(plan: LoosePlan, deviceId: string, mode: Draft<PortMode>): string {
  const owner = the(plan.devices, deviceId)
  const name = String(owner.ports.length + 1)
  owner.ports.push({ ...BLANK_PORT, id: `p${name}`, name, mode })
  return `${deviceId}:${name}`
}

/** A second gateway behind routed ports, with a network of its own. */
const innerGateway: Change = (plan) => {
  plan.devices.push(
    device('inner', 'Inner gateway', 'gateway', '', 'Attic', null, ports({ 1: access(31), 2: access(31) })),
    hosts('cellar', 'Cellar', 'Attic', 'yard', 1),
  )
  the(plan.devices, 'inner').ports[0]!.mode = { mode: 'routed', address: '10.9.255.2/30', address6: null }
  plan.networks.push(
    network('yard', 31, 'Yard', '10.8.1.0/24', '10.8.1.1', ['10.8.1.10', '10.8.1.20'], 1, [], 'inner'),
  )
  plan.policies.push({ deviceId: 'inner', forward: 'accept', input: 'accept', rules: [], pairs: [] })
  const own = freePort(plan, 'gate', { mode: 'routed', address: '10.9.255.1/30', address6: null })
  plan.links.push(link(own, 'inner:1', cat6(2)), link('inner:2', 'cellar:1', cat6(2)))
  plan.routes.push(
    { id: 'there', deviceId: 'gate', prefix: '10.8.1.0/24', via: '10.9.255.2', metric: 0 },
    { id: 'back', deviceId: 'inner', prefix: '0.0.0.0/0', via: '10.9.255.1', metric: 0 },
  )
  rules(plan).push(
    rule('inner', { kind: 'prefix', prefix: '10.8.1.0/24' }, inNetwork('servers'), ['ssh'], ''),
  )
}

const unmanaged: Change = (plan) => {
  plan.devices.push(
    device('strip', 'Strip', 'unmanaged', '', 'Room', null, ports({ 1: plain, 2: plain, 3: plain })),
    hosts('late', 'Late', 'Room', 'staff', 2),
  )
  plan.links.push(
    link(freePort(plan, 'sw', access(10)), 'strip:1', cat6(2)),
    link('strip:2', 'late:1', cat6(2)),
    link('strip:3', 'late:2', cat6(2)),
  )
}

/**
 * Two access points of one SSID, whose models keep stations apart differently; the second on a cable, or joined to the
 * first.
 */
const air =
  (isolation: boolean, model: string, joined?: 'three addresses' | 'four addresses'): Change =>
  (plan) => {
    plan.ssids.push(ssid({ id: 'air', name: 'Air', networkId: 'staff', isolation, apIds: ['ap1', 'ap2'] }))
    for (const id of ['ap1', 'ap2']) {
      plan.devices.push(
        device(
          id,
          id,
          'access-point',
          model,
          'Room',
          'management',
          ports({ 1: trunk(99, 10), radio: { mode: 'radio' } }),
        ),
        hosts(`${id}-hosts`, `Hosts of ${id}`, 'Room', 'staff', 2),
      )
      plan.links.push(
        joined && id === 'ap2'
          ? link('ap1:radio', 'ap2:radio', wifi('air', joined === 'four addresses'))
          : link(freePort(plan, 'sw', trunk(99, 10)), `${id}:1`, cat6(2)),
        link(`${id}:radio`, `${id}-hosts:1`, wifi('air')),
        link(`${id}:radio`, `${id}-hosts:2`, wifi('air')),
      )
    }
  }

/** One device goes out by a provider's tunnel. */
const providerTunnel =
  (orElse: 'next' | 'refuse'): Change =>
  (plan) => {
    const exit = peer('exit', 'provider', ['0.0.0.0/0'], ['10.9.201.1/32'], 'exit.example:51820')
    plan.tunnels.push({
      ...tunnel(exit),
      id: 'out',
      name: 'Out',
      address: '10.9.201.1/24',
      listenPort: 51_821,
    })
    plan.policyRoutes.push({
      id: 'byExit',
      deviceId: 'gate',
      from: theDevice('box'),
      services: [],
      out: { kind: 'tunnel', id: 'out' },
      orElse,
      note: '',
    })
    rules(plan).push(
      rule('v1', theDevice('box'), { kind: 'tunnel', id: 'out' }, ['web', 'ping'], ''),
      rule('v2', theDevice('box'), internet, ['dns'], ''),
    )
  }

/** The second line comes in by the first switch, in a VLAN of its own. */
const uplinkBySwitch =
  (tag: number | null): Change =>
  (plan) => {
    plan.links = plan.links.filter(({ id }) => id !== 'internet.2-gate.3')
    const near = freePort(plan, 'sw', tag === null ? access(700) : trunk(null, tag))
    const far = freePort(plan, 'sw', access(tag ?? 700))
    the(plan.uplinks, 'spare').tag = tag
    plan.links.push(link('gate:3', near, cat6(2)), link(far, 'internet:2', cat6(2)))
  }

const telephone: Change = (plan) => {
  plan.networks.push(
    network('voice', 50, 'Voice', '10.9.50.0/24', '10.9.50.1', ['10.9.50.100', '10.9.50.199'], 4, [], 'gate'),
  )
  const own = ports({ 1: trunk(10, 50), 2: access(10) })
  plan.devices.push(device('tel', 'Telephone', 'telephone', 'T2', 'Room', 'voice', own))
  plan.devices.push(hosts('behind', 'Computer behind', 'Room', 'staff', 1))
  plan.links.push(
    link(freePort(plan, 'gate', access(50)), freePort(plan, 'sw', access(50)), cat6(4)),
    link(freePort(plan, 'sw', trunk(10, 50)), 'tel:1', cat6(4)),
    link('tel:2', 'behind:1', cat6(2)),
  )
  rules(plan).push(rule('calls', inNetwork('voice'), internet, [], 'Telephones call'))
}

/** A host with an interface in two networks. */
const twoHomes: Change = (plan) => {
  plan.devices.push(hosts('store', 'Store', 'Room', 'staff', 1))
  the(plan.devices, 'store').ports[0]!.mode = trunk(10, 20)
  plan.links.push(link(freePort(plan, 'sw', trunk(10, 20)), 'store:1', cat6(2)))
}

/** A network whose leases come from the box, by a relay. */
const relay: Change = (plan) => {
  plan.networks.push({
    ...network('lab', 60, 'Lab', '10.9.60.0/24', '10.9.60.1', ['10.9.60.100', '10.9.60.120'], 4, [], 'gate'),
    dhcp: 'relay',
    relayTo: '10.9.20.10',
  })
  plan.devices.push(hosts('bench', 'Bench', 'Hall', 'lab', 1))
  plan.links.push(link(freePort(plan, 'gate', access(60)), 'bench:1', cat6(2)))
}

const routedHere: Change = (plan) => {
  const line = the(plan.uplinks, 'line')
  line.facts = { ...line.facts, routed4: ['203.0.113.0/26'] }
  plan.networks.push(
    network(
      'public',
      70,
      'Public',
      '203.0.113.0/26',
      '203.0.113.1',
      ['203.0.113.10', '203.0.113.20'],
      2,
      [],
      'gate',
    ),
  )
  plan.devices.push(hosts('web', 'Web', 'Hall', 'public', 1))
  plan.links.push(link(freePort(plan, 'gate', access(70)), 'web:1', cat6(2)))
  rules(plan).push(rule('in', internet, inNetwork('public'), ['https', 'ping'], ''))
}

const pools: Change = (plan) => {
  const staff = the(plan.networks, 'staff')
  staff.exclusions = [{ from: '10.9.10.100', to: '10.9.10.150' }]
  staff.fixed.push({
    ...the(plan.networks, 'servers').fixed[0]!,
    id: 'kept',
    ip: '10.9.10.77',
    name: 'Desk',
    deviceId: 'desk',
    how: 'reserved',
    mask: null,
    gateway: null,
    ip6: null,
  })
}

const everyDay: Change = (plan) => {
  plan.schedules.push({ id: 'ever', name: 'Ever', days: [1, 2, 3, 4, 5, 6, 7], from: '00:00', to: '24:00' })
  rules(plan).unshift({
    ...rule('timed', inNetwork('servers'), inNetwork('staff'), ['ssh'], ''),
    when: 'ever',
  })
}

const behindModem: Change = (plan) => {
  const spare = the(plan.uplinks, 'spare')
  spare.facts = { ...spare.facts, modem: 'routing' }
}

/** Two switches that close a ring with the first, so that spanning tree has a cable to block. */
const ring: Change = (plan) => {
  const all = trunk(99, 10, 20)
  for (const id of ['r1', 'r2']) {
    const own = ports({ 1: all, 2: all, 3: access(10), 4: access(20) })
    plan.devices.push(
      device(id, `Ring switch ${id}`, 'switch', '', 'Hall', 'management', own),
      hosts(`${id}-desk`, `Desk at ${id}`, 'Hall', 'staff', 1),
    )
    plan.links.push(link(`${id}:3`, `${id}-desk:1`, cat6(2)))
  }
  plan.links.push(
    link(freePort(plan, 'sw', all), 'r1:1', cat6(9)),
    link('r1:2', 'r2:1', cat6(9)),
    link('r2:2', freePort(plan, 'sw', all), cat6(9)),
  )
}

/** A switch by two cables that work as one. */
const bundle: Change = (plan) => {
  const all = trunk(99, 10, 20)
  plan.devices.push(
    device(
      's4',
      'Switch by two cables',
      'switch',
      '',
      'Hall',
      'management',
      ports({ 1: all, 2: all, 3: access(20) }),
    ),
    hosts('shelf', 'Shelf', 'Hall', 'servers', 1),
  )
  for (const port of [1, 2])
    plan.links.push({
      ...link(freePort(plan, 'sw', all), `s4:${port}`, cat6(2)),
      id: `bundle-${port}`,
      lag: 'bundle',
    })
  plan.links.push(link('s4:3', 'shelf:1', cat6(2)))
}

const CROWD = 4
/** Many more hosts, in two networks, behind a switch of their own. */
const crowd: Change = (plan) => {
  const access10 = Array.from({ length: CROWD }, () => access(10))
  const access20 = Array.from({ length: CROWD }, () => access(20))
  const own = ports(
    Object.fromEntries([trunk(99, 10, 20), ...access10, ...access20].map((mode, i) => [i + 1, mode])),
  )
  plan.devices.push(device('hub', 'Hall switch', 'switch', '', 'Hall', 'management', own))
  plan.links.push(link(freePort(plan, 'sw', trunk(99, 10, 20)), 'hub:1', cat6(9)))
  Object.assign(the(plan.networks, 'servers'), {
    dhcp: 'serve',
    pool: { from: '10.9.20.100', to: '10.9.20.140' },
  })
  for (let i = 0; i < 2 * CROWD; i++) {
    const id = `seat${i + 1}`
    plan.devices.push(hosts(id, `Seat ${i + 1}`, 'Hall', i < CROWD ? 'staff' : 'servers', 1))
    plan.links.push(link(`hub:${i + 2}`, `${id}:1`, cat6(4)))
  }
}

const openDefault: Change = (plan) => {
  for (const policy of plan.policies) Object.assign(policy, { forward: 'accept', input: 'accept' })
}

const ruled6 =
  (mode6: 'stateless' | 'stateful'): Change =>
  (plan) => {
    Object.assign(the(plan.networks, 'staff'), { prefix6: '2001:db8:5:10::/64', mode6 })
    Object.assign(the(plan.networks, 'servers'), { prefix6: '2001:db8:5:20::/64', mode6: 'slaac' })
  }

/** Parts by name; of those with a stroke in their name only one of a kind stands in a plan. */
export const PARTS: Readonly<Record<string, Change>> = {
  'a second gateway': innerGateway,
  'an unmanaged switch': unmanaged,
  'a telephone': telephone,
  'a host of two homes': twoHomes,
  'a relay': relay,
  'a public network': routedHere,
  'exclusions and reservations': pools,
  'a schedule': everyDay,
  'a routing modem': behindModem,
  'air/kept apart everywhere': air(true, 'A2'),
  'air/kept apart at each': air(true, 'A2X'),
  'air/open': air(false, ''),
  'air/joined': air(false, '', 'three addresses'),
  'air/joined, kept apart': air(true, 'A2X', 'three addresses'),
  'air/joined as a bridge': air(false, '', 'four addresses'),
  'provider/else the next': providerTunnel('next'),
  'provider/else nothing': providerTunnel('refuse'),
  'DHCPv6/stateless': ruled6('stateless'),
  'DHCPv6/stateful': ruled6('stateful'),
  'a ring': ring,
  'two cables as one': bundle,
  'a crowd': crowd,
  'an open default': openDefault,
  'uplink by switch/access': uplinkBySwitch(null),
  'uplink by switch/tagged': uplinkBySwitch(701),
}

const kindOf = (name: string): string => name.split('/')[0] ?? name

/** Some parts that may stand together. */
export const randomParts: fc.Arbitrary<readonly string[]> = fc.uniqueArray(
  fc.constantFrom(...Object.keys(PARTS)),
  {
    minLength: 1,
    maxLength: 3,
    selector: kindOf,
  },
)
