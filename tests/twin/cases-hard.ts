import { down, upstreamDown } from '#core/queries'
import {
  access,
  cat6,
  device,
  draft,
  fixed,
  hosts,
  inNetwork,
  internet,
  link,
  network,
  ports,
  rule,
  theDevice,
  trunk,
  wifi,
  ssid,
} from '#server/demo/build'
import type { PortMode } from '#core/schema'
import { portOf, the, type LoosePlan } from '../plans'
import { boxOfTwoHomes, telephoneWithComputer } from '../fixtures/homes'
import { STATIC_DEFAULTS } from './cases-default-routes'
import { forward, FORWARDS, openInside } from './cases-forwards'
import { peer, provider, roads, route, rules, spare, tunnel, type HardCase } from './parts'

// Sites that stand at the edge of a definition, and mistakes that people make: what the kernel does is right.

/** An access point on a port of the small site's switch, with one host of an SSID of the staff's network. */
export function accessPoint(plan: LoosePlan, id: string, at: string, ssids: readonly string[], model = '') {
  plan.devices.push(
    device(
      id,
      `AP ${id}`,
      'access-point',
      model,
      'Room',
      'management',
      ports({ 1: trunk(99, 10), radio: { mode: 'radio' } }),
    ),
  )
  const [switchId = '', port = ''] = at.split(':')
  portOf(plan, switchId, `p${port}`).mode = trunk(99, 10)
  plan.links.push(link(at, `${id}:1`, cat6(4)))
  for (const ssidId of ssids) {
    const station = `${id}-${ssidId}`
    plan.devices.push(hosts(station, `Station ${station}`, 'Room', 'staff', 1))
    plan.links.push(link(`${id}:radio`, `${station}:1`, wifi(ssidId)))
    const sent = plan.ssids.find((one) => one.id === ssidId)
    if (sent) sent.apIds.push(id)
    else plan.ssids.push(ssid({ id: ssidId, name: ssidId, networkId: 'staff', isolation: true, apIds: [id] }))
  }
}

/** Two access points of one SSID, the second of two SSIDs that both isolate. */
export const twoAccessPoints =
  (model: string) =>
  (plan: LoosePlan): void => {
    accessPoint(plan, 'near', 'sw:4', ['air'], model)
    const sw = plan.devices.find((one) => one.id === 'sw')
    sw?.ports.push({ ...portOf(plan, 'sw', 'p4'), id: 'p5', name: '5' })
    accessPoint(plan, 'far', 'sw:5', ['air', 'yard'], model)
  }

/** A network of public addresses that the first line's provider routes here, open to the internet by one rule. */
export const publicNetwork = (plan: LoosePlan): void => {
  spare(plan)
  const line = the(plan.uplinks, 'line')
  line.facts = { ...line.facts, routed4: ['203.0.113.0/24', '203.0.113.0/26'] }
  Object.assign(the(plan.networks, 'servers'), { subnet: '203.0.113.0/26', gateway: '203.0.113.1' })
  Object.assign(the(plan.networks, 'servers').fixed[0]!, { ip: '203.0.113.10' })
  rules(plan).push(rule('in', internet, inNetwork('servers'), ['https', 'ping'], 'The public reads the box'))
  rules(plan).push(rule('out', inNetwork('servers'), internet, [], 'The box goes out'))
}

/** A second tunnel of the same gateway, with a peer that it dials. */
const secondTunnel = (plan: LoosePlan, listenPort: number, allowed: readonly string[]): void => {
  roads(plan)
  const other = peer('other', 'site', allowed, ['10.9.0.0/16'], 'other.example:51820')
  plan.tunnels.push({ ...tunnel(other), id: 'second', name: 'Second', address: '10.9.201.1/24', listenPort })
  rules(plan).push(
    rule('s1', { kind: 'peer', id: 'other' }, inNetwork('staff'), ['https', 'ping'], ''),
    rule('s2', inNetwork('staff'), { kind: 'peer', id: 'other' }, ['ssh', 'ping'], ''),
  )
}

/** The box's address, typed in or reserved, in a network that also has two hosts that lease. */
export const boxAt =
  (ip: string, how: 'static' | 'reserved', more: (plan: LoosePlan) => void = () => undefined) =>
  (plan: LoosePlan): void => {
    Object.assign(the(plan.networks, 'servers'), {
      dhcp: 'serve',
      pool: { from: '10.9.20.100', to: '10.9.20.140' },
    })
    Object.assign(the(plan.networks, 'servers').fixed[0]!, { ip, how })
    plan.devices.push(hosts('more', 'More', 'Room', 'servers', 1))
    portOf(plan, 'sw', 'p4').mode = access(20)
    plan.links.push(link('sw:4', 'more:1', cat6(5)))
    rules(plan).push(
      rule('b1', inNetwork('servers'), internet, ['ping'], ''),
      rule('b2', inNetwork('servers'), inNetwork('staff'), ['ping'], ''),
    )
    more(plan)
  }
export const excluded =
  (...ranges: readonly (readonly [from: string, to: string])[]) =>
  (plan: LoosePlan): void => {
    the(plan.networks, 'servers').exclusions = ranges.map(([from, to]) => ({
      from: `10.9.20.${from}`,
      to: `10.9.20.${to}`,
    }))
  }

/**
 * What people do to the addresses of one network; each is asked of the real DHCP server.
 * The broadcast address is left out: a kernel lets some answers to it through as broadcasts, others not, and the
 * engine promises none (RFC 1122 section 3.2.1.3: no source address).
 */
const ADDRESSES: readonly HardCase[] = [
  ['an address typed in that is the network’s base', boxAt('10.9.20.0', 'static'), []],
  ['an address typed in that is of another network', boxAt('10.9.30.5', 'static'), []],
  ['an address reserved in another network', boxAt('10.9.10.7', 'reserved'), []],
  ['a reserved address that is the network’s base', boxAt('10.9.20.0', 'reserved'), []],
  ['a reserved address that is the gateway’s', boxAt('10.9.20.1', 'reserved'), []],
  [
    'a reserved address in a pool of two',
    boxAt('10.9.20.100', 'reserved', (plan) => {
      the(plan.networks, 'servers').pool = { from: '10.9.20.100', to: '10.9.20.101' }
    }),
    [],
  ],
  [
    'an exclusion around the gateway',
    boxAt('10.9.20.50', 'reserved', (plan) => {
      the(plan.networks, 'servers').pool = { from: '10.9.20.1', to: '10.9.20.40' }
      excluded(['1', '9'])(plan)
    }),
    [],
  ],
  ['everything excluded', boxAt('10.9.20.50', 'reserved', excluded(['1', '120'], ['121', '254'])), []],
  [
    'a pool that begins outside, as far as it is not excluded',
    boxAt('10.9.20.50', 'reserved', (plan) => {
      the(plan.networks, 'servers').pool = { from: '10.9.19.200', to: '10.9.20.40' }
      the(plan.networks, 'servers').exclusions = [{ from: '10.9.19.0', to: '10.9.20.9' }]
    }),
    [],
  ],
]

/** The box moves behind a second gateway, which the first knows a way through. */
function behindSecond(plan: LoosePlan, forward: 'accept' | 'drop'): void {
  plan.devices.push(
    device('inner', 'Inner', 'gateway', '', 'Room', 'management', ports({ 1: trunk(99), 2: access(50) })),
  )
  plan.networks.push({
    ...structuredClone(the(plan.networks, 'servers')),
    id: 'deep',
    name: 'Deep',
    vlan: 50,
    subnet: '10.9.50.0/24',
    gateway: '10.9.50.1',
    routerId: 'inner',
    fixed: [fixed('10.9.50.10', 'Box', 'box')],
  })
  the(plan.networks, 'servers').fixed = []
  plan.networks.push({
    ...structuredClone(the(plan.networks, 'management')),
    id: 'transit',
    gateway: '10.9.99.5',
    routerId: 'inner',
    fixed: [],
  })
  the(plan.devices, 'box').homeNetworkId = 'deep'
  plan.links = plan.links.filter(({ id }) => id !== 'sw.3-box.1')
  portOf(plan, 'sw', 'p4').mode = trunk(99)
  plan.links.push(link('sw:4', 'inner:1', cat6(2)), link('inner:2', 'box:1', cat6(2)))
  plan.policies.push({ deviceId: 'inner', forward, input: 'accept', rules: [], pairs: [] })
  the(plan.networks, 'staff').relayTo = '10.9.50.10'
  plan.routes.push(
    { id: 'in', deviceId: 'gate', prefix: '10.9.50.0/24', via: '10.9.99.5', metric: 0 },
    { id: 'out', deviceId: 'inner', prefix: '10.9.0.0/16', via: '10.9.99.1', metric: 0 },
  )
}

/** The staff's addresses come from the box, by a relay. */
export const relayed =
  (more: (plan: LoosePlan) => void = () => undefined) =>
  (plan: LoosePlan): void => {
    Object.assign(the(plan.networks, 'staff'), { dhcp: 'relay', relayTo: '10.9.20.10' })
    more(plan)
  }
const boxWith = (fields: { gateway?: string; mask?: number }) => (plan: LoosePlan) =>
  void Object.assign(the(plan.networks, 'servers').fixed[0]!, fields)

const RELAYS: readonly HardCase[] = [
  ['a relay to a server in another network', relayed(), []],
  [
    'a relay whose server has no way back: a gateway that is not there',
    relayed(boxWith({ gateway: '10.9.20.9' })),
    [],
  ],
  ['a relay whose server takes the relay for a neighbour', relayed(boxWith({ mask: 16 })), []],
  ['a relay whose server is cut off', relayed(), [down('sw.3-box.1')]],
  [
    'a relay whose server is on another VLAN',
    relayed((p) => void (portOf(p, 'sw', 'p3').mode = access(99))),
    [],
  ],
  [
    'a relay to a server behind a second gateway, whose rules drop it',
    relayed((plan) => behindSecond(plan, 'drop')),
    [],
  ],
  [
    'a relay to a server behind a second gateway, whose rules let it pass',
    relayed((plan) => behindSecond(plan, 'accept')),
    [],
  ],
  [
    'a relay to a server behind a second gateway that is down',
    relayed((plan) => behindSecond(plan, 'accept')),
    [down('inner')],
  ],
]

/**
 * A second gateway on the staff's own network, with a yard behind it: what comes from the yard goes straight to the
 * desk, whose answer goes by its own gateway first.
 */
export const onOneLan =
  (forward: 'accept' | 'drop', more: (plan: LoosePlan) => void = () => undefined) =>
  (plan: LoosePlan): void => {
    plan.devices.push(
      device('far', 'Far gateway', 'gateway', '', 'Room', null, ports({ 1: access(10), 2: access(31) })),
      hosts('lone', 'Lone', 'Room', 'yard', 1),
    )
    plan.networks.push(
      network('yard', 31, 'Yard', '10.8.1.0/24', '10.8.1.1', ['10.8.1.10', '10.8.1.20'], 1, [], 'far'),
      network('transit', 10, 'Transit', '10.9.10.0/24', '10.9.10.2', null, 0, [], 'far'),
    )
    portOf(plan, 'sw', 'p4').mode = access(10)
    plan.links.push(link('sw:4', 'far:1', cat6(2)), link('far:2', 'lone:1', cat6(2)))
    plan.policies.push({ deviceId: 'far', forward: 'accept', input: 'accept', rules: [], pairs: [] })
    plan.policies[0]!.forward = forward
    plan.routes.push(
      { id: 'there', deviceId: 'gate', prefix: '10.8.1.0/24', via: '10.9.10.2', metric: 0 },
      { id: 'back', deviceId: 'far', prefix: '10.9.0.0/16', via: '10.9.10.1', metric: 0 },
    )
    more(plan)
  }
const highPorts = (plan: LoosePlan, from: number) => {
  plan.services.push({ id: 'high', name: 'High', entries: [{ proto: 'udp', from, to: 65_535 }] })
  rules(plan).push(rule('h', inNetwork('staff'), { kind: 'prefix', prefix: '10.8.1.0/24' }, ['high'], ''))
}

const OTHER_WAY: readonly HardCase[] = [
  ['an answer by another gateway, which lets everything through', onOneLan('accept'), []],
  ['an answer by another gateway, which lets nothing through', onOneLan('drop'), []],
  [
    'an answer by another gateway, whose rule lets through what callers choose',
    onOneLan('drop', (plan) => highPorts(plan, 30_000)),
    [],
  ],
  [
    'an answer by another gateway, which lets new flows of one host through',
    onOneLan('drop', (plan) =>
      rules(plan).push(rule('h', theDevice('box'), { kind: 'prefix', prefix: '10.8.1.0/24' }, [], '')),
    ),
    [],
  ],
]

/** The line comes in by the site's own switch, in a VLAN without a network. */
export const uplinkByVlan =
  (gateSide: PortMode, lineSide: PortMode, tag: number | null = null) =>
  (plan: LoosePlan): void => {
    const sw = the(plan.devices, 'sw')
    sw.ports.push({ ...structuredClone(portOf(plan, 'sw', 'p4')), id: 'p5', name: '5' })
    portOf(plan, 'sw', 'p5').mode = draft(gateSide)
    portOf(plan, 'sw', 'p4').mode = draft(lineSide)
    plan.links = plan.links.filter(({ id }) => id !== 'ont.lan-gate.1')
    plan.links.push(link('gate:1', 'sw:5', cat6(2)), link('sw:4', 'ont:lan', cat6(2)))
    the(plan.uplinks, 'line').tag = tag
  }

const BY_SWITCH: readonly HardCase[] = [
  ['uplink by a switch, access ports both sides', uplinkByVlan(access(700), access(700)), []],
  ['uplink by a switch, on two VLANs', uplinkByVlan(access(700), access(701)), []],
  ['uplink by a switch, tagged towards the gateway', uplinkByVlan(trunk(null, 700), access(700), 700), []],
  ['uplink by a switch that drops its tag', uplinkByVlan(trunk(null, 701), access(700), 700), []],
  ['uplink by a switch, tagged all the way', uplinkByVlan(trunk(null, 700), trunk(null, 700), 700), []],
  ['uplink by a switch, tagged by the switch alone', uplinkByVlan(access(700), trunk(null, 700)), []],
  ['uplink by a switch that is down', uplinkByVlan(access(700), access(700)), [down('sw')]],
  ['uplink by a switch on a LAN’s VLAN', uplinkByVlan(access(10), access(10)), []],
]

/** The box goes out by a provider's tunnel, or by what comes next. */
const byProvider =
  (orElse: 'next' | 'refuse') =>
  (plan: LoosePlan): void => {
    spare(plan)
    provider(plan)
    plan.policyRoutes[0]!.orElse = orElse
    rules(plan).push(rule('v2', theDevice('box'), internet, [], ''))
  }

const PROVIDERS: readonly HardCase[] = [
  ['a provider’s tunnel, else the next uplink', byProvider('next'), []],
  ['a provider’s tunnel, its far end silent, else the next uplink', byProvider('next'), [down('exit')]],
  ['a provider’s tunnel, its far end silent, else nothing', byProvider('refuse'), [down('exit')]],
]

export const HARD: readonly HardCase[] = [
  ['a telephone that tags, with a computer behind it', telephoneWithComputer(), []],
  ['a telephone that tags, on a port that takes no tags', telephoneWithComputer(access(10)), []],
  ['a box of two homes', boxOfTwoHomes(), []],
  ['a box of two homes on a port that takes no tags', boxOfTwoHomes(access(20)), []],
  ['a box of two homes on a port that tags both', boxOfTwoHomes(trunk(null, 10, 20)), []],
  [
    'a box of two homes with a fixed address in each',
    (plan) => {
      boxOfTwoHomes()(plan)
      the(plan.networks, 'staff').fixed.push(fixed('10.9.10.9', 'Box at home', 'box', 'static'))
    },
    [],
  ],
  ['isolation that ends at each access point, with two SSIDs at one', twoAccessPoints('A2X'), []],
  ['isolation across all access points', twoAccessPoints('A2'), []],
  ['a network of public addresses', publicNetwork, []],
  ['public addresses whose uplink is down', publicNetwork, [down('line')]],
  ['public addresses whose uplink is dark', publicNetwork, [upstreamDown('line')]],
  [
    'a network of public addresses that nobody routes here',
    (plan) => (publicNetwork(plan), void (the(plan.uplinks, 'line').facts.routed4 = [])),
    [],
  ],
  [
    'a forward beside a network of public addresses: it is taken at the address of the uplink alone',
    (plan) => (publicNetwork(plan), forward(plan, 'tcp', 443, '10.9.10.50')),
    [],
  ],
  [
    'two tunnels to one prefix: the first has it',
    (plan) => secondTunnel(plan, 51821, ['10.20.0.0/22', '10.30.0.0/24']),
    [],
  ],
  [
    'two tunnels at one port: the second stays down',
    (plan) => secondTunnel(plan, 51820, ['10.30.0.0/24']),
    [],
  ],
  [
    'two tunnels at one port: no route leads into the second, and neighbours stay neighbours',
    (plan) => (
      secondTunnel(plan, 51820, ['10.9.20.0/25', '10.30.0.0/24']),
      route(plan, '10.40.0.0/16', '10.9.201.7'),
      openInside(plan)
    ),
    [],
  ],
  [
    'a static route to a prefix of a tunnel',
    (plan) => (roads(plan), route(plan, '10.20.0.0/22', '10.9.20.10')),
    [],
  ],
  [
    'a static route to a prefix of a tunnel, with a higher metric',
    (plan) => (roads(plan), route(plan, '10.20.0.0/22', '10.9.20.10', 7)),
    [],
  ],
  [
    'a static route whose next hop is an address in a tunnel',
    (plan) => (roads(plan), route(plan, '10.20.0.0/16', '10.9.200.2')),
    [],
  ],
  [
    'static routes whose next hops are not heard',
    (plan) => (route(plan, '198.51.100.0/25', '10.9.77.1'), route(plan, '198.51.100.0/26', '10.9.20.1')),
    [],
  ],
  [
    'a static route to a host, and its neighbours, by that host itself',
    (plan) => {
      openInside(plan)
      route(plan, '10.9.20.0/25', '10.9.20.10')
      forward(plan, 'tcp', 443, '10.9.20.10')
    },
    [],
  ],
  ...STATIC_DEFAULTS,
  ...FORWARDS,
  ...ADDRESSES,
  ...RELAYS,
  ...OTHER_WAY,
  ...BY_SWITCH,
  ...PROVIDERS,
]
