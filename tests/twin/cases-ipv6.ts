import { down } from '#core/queries'
// Plans with IPv6, and with two gateways, that the kernel and the engine are asked about.
import type { FailureScenario } from '#core/queries'
import {
  access,
  cat6,
  device,
  hosts,
  inNetwork,
  internet,
  link,
  ports,
  rule,
  theDevice,
  toGateway,
} from '#server/demo/build'
import { portOf, the, type LoosePlan } from '../plans'
import { openInside } from './cases-forwards'
import { bothFamilies, peer, roads, rules, spare, tunnel, type Change } from './parts'

export const ipv6: Change = (plan) => {
  for (const [id, prefix6] of [
    ['management', '2001:db8:5:99::/64'],
    ['staff', '2001:db8:5:10::/64'],
    ['servers', '2001:db8:5:20::/64'],
  ] as const)
    Object.assign(the(plan.networks, id), { prefix6, mode6: 'slaac' })
  the(plan.uplinks, 'line').facts.delegated6 = '2001:db8:5::/48'
}
export const SIXES: readonly (readonly [string, Change, FailureScenario])[] = [
  ['the small site with both families', ipv6, []],
  ['its uplink down: inside goes on', ipv6, [down('line')]],
  [
    'everything forwarded: the internet calls hosts by IPv6, and nobody by IPv4',
    (p) => (ipv6(p), void (p.policies[0]!.forward = 'accept')),
    [],
  ],
  [
    'a refusal by IPv4 address is passed by',
    (plan) => (
      ipv6(plan),
      void rules(plan).unshift({
        ...rule('no', inNetwork('staff'), theDevice('box'), [], ''),
        action: 'drop',
      })
    ),
    [],
  ],
  [
    'an IPv6 address typed into a server: rules that name it hold for both families',
    (plan) => (
      ipv6(plan),
      void (the(plan.networks, 'servers').fixed[0]!.ip6 = '2001:db8:5:20::77'),
      rules(plan).unshift(
        rule('a', inNetwork('staff'), theDevice('box'), ['ssh'], ''),
        rule('b', theDevice('box'), internet, ['https'], ''),
      )
    ),
    [],
  ],
  [
    'an IPv6 address typed of another network’s prefix',
    (plan) => (
      ipv6(plan),
      void (the(plan.networks, 'servers').fixed[0]!.ip6 = '2001:db8:5:10::77'),
      void (plan.policies[0]!.forward = 'accept')
    ),
    [],
  ],
  [
    'an IPv6 address typed of no network’s prefix',
    (plan) => (
      ipv6(plan),
      void (the(plan.networks, 'servers').fixed[0]!.ip6 = '2001:db8:5:ab::77'),
      void (plan.policies[0]!.forward = 'accept')
    ),
    [],
  ],
  [
    'a typed IPv6 address behind a wrong access VLAN',
    (plan) => (
      ipv6(plan),
      void (the(plan.networks, 'servers').fixed[0]!.ip6 = '2001:db8:5:20::77'),
      void (portOf(plan, 'sw', 'p3').mode = access(10))
    ),
    [],
  ],
  [
    'rules by IPv6 prefix, in and out',
    (plan) => {
      ipv6(plan)
      rules(plan).push(
        rule('a', internet, { kind: 'prefix', prefix: '2001:db8:5:20::/64' }, ['https', 'ping'], ''),
        rule(
          'b',
          { kind: 'prefix', prefix: '2001:db8:5::/48' },
          { kind: 'prefix', prefix: '2001:db8:ffff::/48' },
          ['ssh'],
          '',
        ),
        rule('c', internet, toGateway, ['ping'], '', 'input'),
      )
    },
    [],
  ],
  [
    'unique local addresses in one network, global ones in another, none in the third',
    (plan) => {
      ipv6(plan)
      the(plan.networks, 'staff').prefix6 = 'fd61:6a11::/64'
      the(plan.networks, 'management').mode6 = 'off'
      plan.policies[0]!.forward = 'accept'
    },
    [],
  ],
  [
    'two uplinks, each with a prefix of its own',
    (plan) => {
      ipv6(plan)
      spare(plan)
      the(plan.uplinks, 'spare').facts = {
        ...the(plan.uplinks, 'spare').facts,
        delegated6: '2001:db8:6::/48',
      }
      the(plan.networks, 'servers').prefix6 = '2001:db8:6:20::/64'
      rules(plan).push(
        rule('out', inNetwork('servers'), internet, [], ''),
        rule('in', internet, inNetwork('servers'), ['https'], ''),
      )
    },
    [],
  ],
  [
    'two uplinks, the one with the prefix of most down',
    (plan) => {
      ipv6(plan)
      spare(plan)
      the(plan.uplinks, 'spare').facts = { ...the(plan.uplinks, 'spare').facts, delegated6: null }
      rules(plan).push(rule('out', inNetwork('servers'), internet, [], ''))
    },
    [down('line')],
  ],
  [
    'two uplinks that both bring the same prefix, the first down: the second carries them',
    (p) => (ipv6(p), spare(p)),
    [down('line')],
  ],
  [
    'a wrong access VLAN: the host takes the other prefix',
    (plan) => (
      ipv6(plan),
      (the(plan.networks, 'servers').dhcp = 'serve'),
      (the(plan.networks, 'servers').pool = { from: '10.9.20.100', to: '10.9.20.120' }),
      void (portOf(plan, 'sw', 'p2').mode = access(20))
    ),
    [],
  ],
]
// Two gateways, joined by routed ports with addresses of their own.
export const joined =
  (routes: LoosePlan['routes']): Change =>
  (plan) => {
    plan.devices.push(
      device('far', 'Far gateway', 'gateway', '', 'Room', null, ports({ 1: access(10), 2: access(31) })),
      hosts('lone', 'Lone', 'Room', 'yard', 1),
    )
    plan.networks.push({
      ...structuredClone(the(plan.networks, 'staff')),
      id: 'yard',
      vlan: 31,
      name: 'Yard',
      subnet: '10.8.1.0/24',
      gateway: '10.8.1.1',
      pool: { from: '10.8.1.10', to: '10.8.1.20' },
      routerId: 'far',
      fixed: [],
    })
    plan.policies.push({ deviceId: 'far', forward: 'accept', input: 'accept', rules: [], pairs: [] })
    plan.policies[0]!.forward = 'accept'
    plan.links.push(link('far:2', 'lone:1', cat6(2)))
    the(plan.devices, 'gate').ports.push({
      ...structuredClone(portOf(plan, 'gate', 'p2')),
      id: 'p5',
      name: '5',
      mode: { mode: 'routed', address: '10.9.255.1/30', address6: null },
    })
    portOf(plan, 'far', 'p1').mode = { mode: 'routed', address: '10.9.255.2/30', address6: null }
    plan.links.push(link('gate:5', 'far:1', cat6(2)))
    plan.routes.push(...routes)
  }
export const way = (via: string) => ({ id: 'there', deviceId: 'gate', prefix: '10.8.1.0/24', via, metric: 0 })
export const home = (via: string) => ({ id: 'back', deviceId: 'far', prefix: '10.9.0.0/16', via, metric: 0 })
export const GATEWAYS: readonly (readonly [string, Change, FailureScenario])[] = [
  ['joined by routed ports', joined([way('10.9.255.2'), home('10.9.255.1')]), []],
  ['joined by routed ports, one route missing', joined([way('10.9.255.2')]), []],
  [
    'joined by routed ports, their cable broken',
    joined([way('10.9.255.2'), home('10.9.255.1')]),
    [down('gate.5-far.1')],
  ],
  [
    'joined by routed ports, one of them an access port instead',
    (plan) => (
      joined([way('10.9.255.2'), home('10.9.255.1')])(plan),
      void (portOf(plan, 'gate', 'p5').mode = access(20))
    ),
    [],
  ],
]
export const roads6: Change = (p) => (ipv6(p), roads(p), bothFamilies(p))
/** The tunnel's own port of the first line is handed to a server. */
export const handedOver: Change = (plan) => {
  roads6(plan)
  plan.forwards.push({
    id: 'over',
    deviceId: 'gate',
    uplinkId: 'line',
    proto: 'udp',
    from: 51_820,
    to: 51_820,
    toAddress: '10.9.20.10',
    toPort: 443,
    hairpin: false,
    note: '',
  })
}
/** A second tunnel at the port of the first, with a part of the servers' network and an address of its own. */
export const refused6: Change = (plan) => {
  roads6(plan)
  const other = peer(
    'other',
    'site',
    ['10.30.0.0/24', '2001:db8:5:20:8000::/65'],
    ['10.9.0.0/16'],
    'other.example:51820',
  )
  const address6 = 'fd61:6a11:30::1/64'
  plan.tunnels.push({ ...tunnel(other), id: 'second', name: 'Second', address: '10.9.201.1/24', address6 })
  openInside(plan)
}
export const joined6 =
  (via: string): Change =>
  (plan) => {
    ipv6(plan)
    joined([
      way('10.9.255.2'),
      home('10.9.255.1'),
      { id: 'there6', deviceId: 'gate', prefix: '2001:db8:8::/48', via, metric: 0 },
      { id: 'back6', deviceId: 'far', prefix: '2001:db8:5::/48', via: 'fd61:6a11:ff::1', metric: 0 },
    ])(plan)
    Object.assign(the(plan.networks, 'yard'), { prefix6: '2001:db8:8:31::/64', mode6: 'slaac' })
    Object.assign(portOf(plan, 'gate', 'p5').mode, { address6: 'fd61:6a11:ff::1/64' })
    Object.assign(portOf(plan, 'far', 'p1').mode, { address6: 'fd61:6a11:ff::2/64' })
  }
