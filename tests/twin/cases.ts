import { down, upstreamDown } from '#core/queries'
// Plans worked out by hand that the kernel and the engine are asked about.
import type { FailureScenario } from '#core/queries'
import {
  access,
  cat6,
  device,
  fixed,
  hosts,
  inNetwork,
  internet,
  link,
  plain,
  ports,
  rule,
  theDevice,
  toGateway,
  trunk,
  wifi,
  ssid,
} from '#server/demo/build'
import { portOf, the, type LoosePlan } from '../plans'
import { roads, rules, second, spare, third, type Change, provider } from './parts'
import { ON_AIR } from './switch-on-air'

// One mechanism each, worked out by hand before: what the kernel must show, besides agreeing.
export const SITES: readonly (readonly [string, Change, FailureScenario])[] = [
  [
    'a host with an address of the network that its cable leads to, and a gateway of its own network',
    (plan) => {
      const [assignment] = the(plan.networks, 'servers').fixed
      Object.assign(assignment!, { ip: '10.9.10.7', mask: 24, gateway: '10.9.20.77' })
      portOf(plan, 'sw', 'p3').mode = access(10)
    },
    [],
  ],
  ['the small site as it is', () => undefined, []],
  ...ON_AIR,
  [
    'a VLAN left off one end of a trunk: its host gets no address',
    (p) => (second(p), void (portOf(p, 's2', 'p1').mode = trunk(99, 20))),
    [],
  ],
  [
    'native VLANs that differ: untagged frames change network',
    (p) => void (portOf(p, 'sw', 'p1').mode = trunk(20, 10)),
    [],
  ],
  [
    'an unmanaged switch passes tags as they are',
    (plan) => {
      plan.devices.push(
        device('strip', 'Strip', 'unmanaged', '', 'Room', null, ports({ 1: plain, 2: plain, 3: plain })),
        hosts('late', 'Late', 'Room', 'staff', 1),
        device(
          'ap',
          'AP',
          'access-point',
          '',
          'Room',
          'management',
          ports({ 1: trunk(10, 20, 99), radio: { mode: 'radio' } }),
        ),
        hosts('air', 'Air', 'Room', 'servers', 2, 2),
      )
      portOf(plan, 'sw', 'p4').mode = trunk(10, 20, 99)
      the(plan.networks, 'servers').dhcp = 'serve'
      the(plan.networks, 'servers').pool = { from: '10.9.20.100', to: '10.9.20.120' }
      plan.ssids.push(ssid({ id: 's', name: 'Air', networkId: 'servers', isolation: false, apIds: ['ap'] }))
      plan.links.push(
        link('sw:4', 'strip:1', cat6(2)),
        link('strip:2', 'late:1', cat6(2)),
        link('strip:3', 'ap:1', cat6(2)),
        link('ap:radio', 'air:1', wifi('s')),
        link('ap:radio', 'air:2', wifi('s')),
      )
    },
    [],
  ],
  [
    'stations kept apart at the radio reach the gateway and not each other',
    (plan) => {
      plan.devices.push(
        device(
          'ap',
          'AP',
          'access-point',
          '',
          'Room',
          'management',
          ports({ 1: trunk(99, 10), radio: { mode: 'radio' } }),
        ),
        hosts('air', 'Air', 'Room', 'staff', 2, 2),
      )
      portOf(plan, 'sw', 'p4').mode = trunk(99, 10)
      plan.ssids.push(ssid({ id: 's', name: 'Air', networkId: 'staff', isolation: true, apIds: ['ap'] }))
      plan.links.push(
        link('sw:4', 'ap:1', cat6(2)),
        link('ap:radio', 'air:1', wifi('s')),
        link('ap:radio', 'air:2', wifi('s')),
      )
    },
    [],
  ],
  ['a gateway typed in another subnet', (p) => void (the(p.networks, 'staff').gateway = '10.9.11.1'), []],
  [
    'a host with too wide a mask takes strangers for neighbours',
    (p) => void (the(the(p.networks, 'servers').fixed, 'at-10-9-20-10').mask = 16),
    [],
  ],
  [
    'a host with a gateway outside its own link',
    (plan) =>
      void Object.assign(the(the(plan.networks, 'servers').fixed, 'at-10-9-20-10'), {
        mask: 28,
        gateway: '10.9.20.200',
      }),
    [],
  ],
  [
    'rules in order: a refusal before a permission, intervals of ports, one address',
    (plan) => {
      rules(plan).unshift({
        ...rule('no', inNetwork('staff'), theDevice('box'), ['https'], 'Not to the box'),
        action: 'reject',
      })
      plan.services.push({
        id: 'range',
        name: 'Range',
        entries: [
          { proto: 'udp', from: 4000, to: 5100 },
          { proto: 'tcp', from: 20, to: 25 },
        ],
      })
      rules(plan).push(
        rule('r9', inNetwork('servers'), inNetwork('staff'), ['range'], ''),
        rule('r10', theDevice('box'), toGateway, ['ssh'], '', 'input'),
      )
    },
    [],
  ],
  ['two uplinks, the first cut: the second carries', (p) => spare(p), [down('line')]],
  ['two uplinks, both cut', (p) => spare(p), [down('line'), down('internet.2-gate.3')]],
  [
    'a static pool with exclusions, reservations by MAC',
    (plan) => {
      the(plan.networks, 'staff').exclusions = [{ from: '10.9.10.100', to: '10.9.10.197' }]
      the(plan.networks, 'staff').fixed = [
        { ...fixed('10.9.10.50', 'Desk', 'desk', 'reserved'), mac: '00-00-5E-00-53-AA' },
      ]
      second(plan)
    },
    [],
  ],
  [
    'a tag that the provider asks for, through a bridging modem',
    (p) => void (the(p.uplinks, 'line').tag = 132),
    [],
  ],
  [
    'default accept, and one refusal',
    (plan) => {
      const policy = plan.policies[0]
      if (policy)
        Object.assign(policy, {
          forward: 'accept',
          input: 'accept',
          rules: [{ ...rule('no', inNetwork('staff'), internet, ['web'], ''), action: 'drop' }],
        })
    },
    [],
  ],
]

export const KEPT = {
  kind: 'icmp' as const,
  targets: ['198.51.100.1'],
  quorum: 1,
  everyS: 5,
  timeoutS: 1,
  misses: 3,
  returns: 3,
}
export const probed = (p: LoosePlan) => p.uplinks.forEach((u) => Object.assign(u, { probe: KEPT }))
export const handed: Change = (plan) => {
  plan.forwards.push(
    {
      id: 'web',
      deviceId: 'gate',
      uplinkId: 'line',
      proto: 'tcp',
      from: 8443,
      to: 8443,
      toAddress: '10.9.20.10',
      toPort: 443,
      hairpin: false,
      note: '',
    },
    {
      id: 'dns',
      deviceId: 'gate',
      uplinkId: 'line',
      proto: 'udp',
      from: 53,
      to: 53,
      toAddress: '10.9.20.10',
      toPort: 53,
      hairpin: false,
      note: '',
    },
    {
      id: 'closed',
      deviceId: 'gate',
      uplinkId: 'line',
      proto: 'tcp',
      from: 2222,
      to: 2222,
      toAddress: '10.9.20.10',
      toPort: 22,
      hairpin: false,
      note: '',
    },
  )
  rules(plan).push(rule('f1', internet, theDevice('box'), ['https', 'dns'], ''))
}
export const choosing =
  (orElse: 'next' | 'refuse'): Change =>
  (plan) => {
    spare(plan)
    plan.policyRoutes.push(
      {
        id: 'c1',
        deviceId: 'gate',
        from: inNetwork('staff'),
        services: ['https'],
        out: { kind: 'uplink', id: 'spare' },
        orElse,
        note: '',
      },
      {
        id: 'c2',
        deviceId: 'gate',
        from: inNetwork('servers'),
        services: [],
        out: { kind: 'uplink', id: 'line' },
        orElse,
        note: '',
      },
    )
    rules(plan).push(rule('out', inNetwork('servers'), internet, [], ''))
  }
export const WAYS: readonly (readonly [string, Change, FailureScenario])[] = [
  [
    'two uplinks, the first dark: its probe finds out and the second carries',
    (p) => (spare(p), probed(p)),
    [upstreamDown('line')],
  ],
  ['two uplinks, the first dark and nobody probes: everything is lost', spare, [upstreamDown('line')]],
  ['port forwards to a server, one of them with no rule that lets it in', handed, []],
  ['a port forward on an uplink that is down', (p) => (handed(p), spare(p)), [down('line')]],
  [
    'the same, called from inside',
    (p) => (handed(p), spare(p), p.forwards.forEach((f) => (f.hairpin = true))),
    [down('line')],
  ],
  [
    'a port forward on the second of two uplinks: answers leave by it',
    (p) => (handed(p), spare(p), p.forwards.forEach((f) => (f.uplinkId = 'spare'))),
    [],
  ],
  [
    'port forwards called from inside, by hosts of either network',
    (plan) => (
      handed(plan),
      plan.forwards.forEach((f) => (f.hairpin = true)),
      void rules(plan).push(rule('own', inNetwork('servers'), inNetwork('servers'), ['https'], ''))
    ),
    [],
  ],
  [
    'a port forward called from inside, to a server that takes the gateway for far away and has no way there',
    (plan) => (
      handed(plan),
      plan.forwards.forEach((f) => (f.hairpin = true)),
      void Object.assign(the(plan.networks, 'servers').fixed[0]!, { mask: 30, gateway: '10.9.10.1' })
    ),
    [],
  ],
  ['policy routes by source and service, all well', choosing('next'), []],
  ['policy routes whose uplink is down take the next', choosing('next'), [down('spare')]],
  ['policy routes whose uplink is down refuse', choosing('refuse'), [down('spare')]],
  ['policy routes, the first uplink down', choosing('refuse'), [down('line')]],
  ['a tunnel to a far site and a person on the road, wireguard-go for the kernel’s', roads, []],
  [
    'a tunnel whose far end does not allow a network of ours',
    (p) => (roads(p), void (p.tunnels[0]!.peers[0]!.theirAllowed = ['10.9.99.0/24'])),
    [],
  ],
  ['a tunnel with a peer gone', roads, [down('mainland')]],
  [
    'a tunnel over the second uplink, which shares its address: we dial, and nobody dials us',
    (p) => (roads(p), spare(p), void (the(p.uplinks, 'spare').outside = 'shared')),
    [down('line')],
  ],
  [
    'a tunnel that knows a network of ours by another prefix, and half of another by its own',
    (plan) => {
      roads(plan)
      plan.tunnels[0]!.mapped = [{ id: 'm', inside: '10.9.10.0/24', outside: '10.99.10.0/24' }]
      plan.tunnels[0]!.peers[0]!.theirAllowed = ['10.99.10.0/24', '10.9.200.0/24', '10.9.20.0/28']
      rules(plan).push(rule('t6', { kind: 'peer', id: 'mainland' }, inNetwork('servers'), ['https'], ''))
    },
    [],
  ],
  [
    'the same, where the far end allows the real prefix alone',
    (plan) => {
      roads(plan)
      plan.tunnels[0]!.mapped = [{ id: 'm', inside: '10.9.10.0/24', outside: '10.99.10.0/24' }]
    },
    [],
  ],
  [
    'two uplinks that share, all well',
    (plan) => (
      spare(plan),
      handed(plan),
      plan.uplinks.forEach((u, i) => Object.assign(u, { priority: 1, weight: 2 + i }))
    ),
    [],
  ],
  [
    'two uplinks that share, the first cut',
    (p) => (spare(p), probed(p), p.uplinks.forEach((u) => (u.priority = 1))),
    [down('line')],
  ],
  [
    'two uplinks that share, the second dark: its probe finds out',
    (p) => (spare(p), probed(p), p.uplinks.forEach((u) => (u.priority = 1))),
    [upstreamDown('spare')],
  ],
  ['two uplinks share behind a first one that is cut', (p) => (third(p), probed(p)), [down('line')]],
  [
    'two uplinks share behind a first one that is cut, one of them too',
    (p) => (third(p), probed(p)),
    [down('line'), down('spare')],
  ],
  [
    'two pairs that share, the first pair and one of the second cut',
    (plan) => (
      third(plan, 1),
      probed(plan),
      plan.uplinks.forEach((u, i) => Object.assign(u, { priority: i < 2 ? 1 : 2, weight: 1 + i }))
    ),
    [down('line'), down('spare'), down('third')],
  ],
  [
    'a group of a network, a device and a prefix, at either end of a rule',
    (plan) => {
      plan.groups.push(
        {
          id: 'g',
          name: 'G',
          members: [inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/28' }],
        },
        { id: 'h', name: 'H', members: [theDevice('box'), internet] },
      )
      rules(plan).splice(
        0,
        9,
        rule('g1', { kind: 'group', id: 'g' }, { kind: 'group', id: 'h' }, ['ssh', 'ping'], ''),
        rule('g2', { kind: 'group', id: 'g' }, toGateway, ['dns'], '', 'input'),
      )
    },
    [],
  ],
  [
    'defaults for pairs of zones: after the rules, the first that fits',
    (plan) => {
      plan.groups.push({ id: 'in', name: 'In', members: [inNetwork('staff'), inNetwork('servers')] })
      plan.policies[0]!.pairs.push(
        { id: 'a', from: inNetwork('servers'), to: { kind: 'group', id: 'in' }, action: 'drop' },
        { id: 'b', from: { kind: 'group', id: 'in' }, to: { kind: 'any' }, action: 'accept' },
      )
      rules(plan).unshift({
        ...rule('no', inNetwork('staff'), internet, ['ssh'], ''),
        action: 'drop',
      })
    },
    [],
  ],
  ['one device in a provider’s tunnel, the rest outside', provider, []],
  ['one device in a provider’s tunnel that is down: it stays inside', provider, [down('exit')]],
]
