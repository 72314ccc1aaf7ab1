import { describe, expect, it } from 'vitest'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import {
  access,
  cat6,
  device,
  fixed,
  hosts,
  inNetwork,
  inside,
  link,
  network,
  plain,
  ports,
  rule,
} from '#server/demo/build'
import { formatIpv4, ipv4 } from '#core/address'
import { indexPlan } from '#core/queries'
import { formatServices } from '#core/filter'
import { gatewaySeenBy } from './gateway-choice'
import { flowTyped, GATEWAY, matrixOf as wholeGrid, INTERNET, openSite, readFlow, walkFlow } from '.'
import { type Change, gridOf, passes, walkOf, stopOf } from '../../tests/fixtures/reachability'

/** A second gateway behind the first, joined by routed ports with a route at each end. */
const joined =
  (change: Change = () => undefined): Change =>
  (plan) => {
    plan.devices.push(
      device('far', 'Far gateway', 'gateway', '', 'Room', null, ports({ 1: plain, 2: access(31) })),
      hosts('lone', 'Lone', 'Room', 'yard', 1),
    )
    plan.networks.push(
      network('yard', 31, 'Yard', '10.8.1.0/24', '10.8.1.1', ['10.8.1.10', '10.8.1.20'], 1, [], 'far'),
    )
    the(plan.devices, 'gate').ports.push({
      ...structuredClone(portOf(plan, 'gate', 'p2')),
      id: 'p5',
      name: '5',
    })
    portOf(plan, 'gate', 'p5').mode = { mode: 'routed', address: '10.9.255.1/30', address6: null }
    portOf(plan, 'far', 'p1').mode = { mode: 'routed', address: '10.9.255.2/30', address6: null }
    plan.links.push(link('gate:5', 'far:1', cat6(2)), link('far:2', 'lone:1', cat6(2)))
    plan.policies.push({ deviceId: 'far', forward: 'accept', input: 'accept', rules: [], pairs: [] })
    plan.policies[0]!.forward = 'accept'
    plan.routes.push(
      { id: 'there', deviceId: 'gate', prefix: '10.8.1.0/24', via: '10.9.255.2', metric: 0 },
      { id: 'back', deviceId: 'far', prefix: '10.9.0.0/16', via: '10.9.255.1', metric: 0 },
    )
    change(plan)
  }

it('outside, a gateway is known by an address of its own, whichever network comes first', () => {
  const yardFirst = site(joined((p) => p.networks.unshift(p.networks.pop()!)))
  expect(yardFirst.networks[0]?.routerId).toBe('far')
  const seen = gatewaySeenBy(openSite(indexPlan(yardFirst), []), { kind: 'internet' })
  expect(seen?.deviceId).toBe('gate')
  expect(yardFirst.networks.find((n) => n.gateway === formatIpv4(seen!.address))?.routerId).toBe('gate')
})

describe('two gateways', () => {
  // desk's network sits on gate; a second gateway `far` on the staff network leads to 10.8.1.0/24 behind it.
  const far =
    (routes: LoosePlan['routes']): Change =>
    (plan) => {
      plan.devices.push(
        device('far', 'Far gateway', 'gateway', '', 'Room', null, ports({ 1: access(10), 2: access(31) })),
        hosts('lone', 'Lone', 'Room', 'yard', 1),
      )
      plan.networks.push(
        network('yard', 31, 'Yard', '10.8.1.0/24', '10.8.1.1', ['10.8.1.10', '10.8.1.20'], 1, [], 'far'),
      )
      plan.networks.push(network('transit', 10, 'Transit', '10.9.10.0/24', '10.9.10.2', null, 0, [], 'far'))
      portOf(plan, 'sw', 'p4').mode = access(10)
      plan.links.push(link('sw:4', 'far:1', cat6(2)), link('far:2', 'lone:1', cat6(2)))
      plan.policies.push({ deviceId: 'far', forward: 'accept', input: 'accept', rules: [], pairs: [] })
      const gate = plan.policies[0]
      if (gate) gate.forward = 'accept'
      plan.routes.push(...routes)
    }
  const there = { id: 'there', deviceId: 'gate', prefix: '10.8.1.0/24', via: '10.9.10.2', metric: 0 }
  const back = { id: 'back', deviceId: 'far', prefix: '10.9.20.0/24', via: '10.9.10.1', metric: 0 }

  it('a static route leads through the next hop, and the answer needs one of its own', () => {
    expect(passes('servers', 'yard', far([there, back]))).toBe('all')
    expect(stopOf('servers', 'yard', far([there]))).toBe('no-route')
  })
  it('an answer by another way is dropped by the stateful gateway it did not come through', () => {
    // yard to staff: far delivers on its own link; the reply goes to the desk's gateway first.
    // That gateway lets everything through, and of UDP nothing tells an answer from a question.
    expect(passes('yard', 'staff', far([there, back]))).toBe('udp all')
    const closed: Change = (plan) => (far([there, back])(plan), void (plan.policies[0]!.forward = 'drop'))
    expect(stopOf('yard', 'staff', closed)).toBe('asymmetric')
    const opened = openSite(indexPlan(site(far([there, back]))), [])
    const at = (id: string) => opened.endpoints.find((e) => e.id === id)?.ranges[0]?.from ?? 0
    const walk = walkFlow(opened, {
      from: 'lone',
      fromAddress: at('lone'),
      to: 'desk',
      toAddress: at('desk'),
      proto: 'icmp',
      port: 0,
    })
    // The answer follows its flow: no rule is asked again.
    expect(walk?.lines.filter((l) => l.kind === 'rule').map((l) => l.back)).toEqual([false])
    expect(walk?.lines.some((l) => l.kind === 'route' && l.back)).toBe(true)
    expect(walk?.lines.at(-1)).toEqual({ kind: 'stopped', code: 'asymmetric', back: true })
  })
  it('routes that send a packet round end it', () => {
    const loop = [
      { ...there, prefix: '10.7.0.0/16' },
      { id: 'loop', deviceId: 'far', prefix: '10.7.0.0/16', via: '10.9.10.1', metric: 0 },
    ]
    const opened = openSite(indexPlan(site(far(loop))), [])
    const box = opened.endpoints.find((e) => e.id === 'box')?.ranges[0]?.from ?? 0
    const walk = walkFlow(opened, {
      from: 'box',
      fromAddress: box,
      to: 'lone',
      toAddress: ipv4(0x0a070001),
      proto: 'icmp',
      port: 0,
    })
    expect(walk?.lines.at(-1)).toMatchObject({ kind: 'stopped', code: 'too-many-hops' })
  })
  it(
    'joined by routed ports with addresses of their own: each end needs a route, and one ' +
      'mode that is no routed port parts them',
    () => {
      expect([passes('servers', 'yard', joined()), passes('yard', 'staff', joined())]).toEqual(['all', 'all'])
      expect(
        stopOf(
          'servers',
          'yard',
          joined((p) => void p.routes.pop()),
        ),
      ).toBe('no-route')
      // An access port at one end sends untagged frames too, but nobody there has the address.
      expect(
        stopOf(
          'servers',
          'yard',
          joined((p) => void (portOf(p, 'far', 'p1').mode = access(10))),
        ),
      ).toBe('neighbour-unanswered')
      expect(
        stopOf(
          'servers',
          'yard',
          joined(
            (plan) =>
              void (portOf(plan, 'far', 'p1').mode = {
                mode: 'routed',
                address: '10.9.254.2/30',
                address6: null,
              }),
          ),
        ),
      ).toBe('neighbour-unanswered')
      // What comes in by a routed port comes from no network: a rule for every network does not speak of it.
      const strict = joined((plan) => {
        plan.policies[0]!.forward = 'drop'
        plan.policies[0]!.rules.push(rule('in', inside, inNetwork('servers'), ['ssh'], ''))
      })
      expect(passes('yard', 'servers', strict)).toBe('nothing')
      expect(
        passes(
          'yard',
          'servers',
          (plan) => (
            strict(plan),
            void plan.policies[0]!.rules.push(
              rule('by', { kind: 'prefix', prefix: '10.8.0.0/16' }, inNetwork('servers'), ['ssh'], ''),
            )
          ),
        ),
      ).toBe('tcp 22')
    },
  )
  it('plain ports on a gateway carry nothing', () => {
    expect(passes('yard', GATEWAY, (p) => (far([])(p), void (portOf(p, 'far', 'p2').mode = plain)))).toBe(
      'nothing',
    )
  })
})

describe('a flow as it is typed', () => {
  const at = (text: string) => {
    const read = readFlow(text)
    return read.ok
      ? [
          read.value.from === null ? null : formatIpv4(read.value.from),
          read.value.to === null ? null : formatIpv4(read.value.to),
          read.value.proto,
          read.value.port,
        ]
      : read.problems[0]?.code
  }
  it('is a protocol and a port, with or without addresses', () => {
    expect([at('tcp 8080'), at(' ICMP '), at('10.9.10.150 to 198.51.100.7 udp 53')]).toEqual([
      [null, null, 'tcp', 8080],
      [null, null, 'icmp', 0],
      ['10.9.10.150', '198.51.100.7', 'udp', 53],
    ])
    expect(
      ['tcp', 'icmp 3', 'tcp 65536', '10.9.10.1 tcp 80', 'web', '', '10.9.10.300 to 10.9.20.10 tcp 80'].map(
        at,
      ),
    ).toEqual([...Array(6).fill('not-a-flow'), 'not-ipv4'])
  })
  it('is walked between whoever has its addresses', () => {
    const opened = openSite(indexPlan(site()), [])
    const like = {
      from: 'desk',
      fromAddress: 0x0a090a64,
      to: 'box',
      toAddress: 0x0a09140a,
      proto: 'tcp',
      port: 443,
    } as const
    const walked = (text: string) => {
      const read = readFlow(text)
      const flow = read.ok ? flowTyped(opened, like, read.value) : null
      return (
        flow && [
          flow.from,
          flow.to,
          formatIpv4(ipv4(flow.fromAddress)),
          formatIpv4(ipv4(flow.toAddress)),
          walkFlow(opened, flow)?.passes,
        ]
      )
    }
    expect(walked('tcp 443')).toEqual(['desk', 'box', '10.9.10.100', '10.9.20.10', true])
    expect(walked('tcp 444')).toEqual(['desk', 'box', '10.9.10.100', '10.9.20.10', false])
    expect(walked('10.9.10.150 to 198.51.100.9 udp 1')).toEqual([
      'desk',
      'internet',
      '10.9.10.150',
      '198.51.100.9',
      true,
    ])
    expect(walked('10.9.10.150 to 10.9.10.1 udp 53')).toEqual([
      'desk',
      'gateway',
      '10.9.10.150',
      '10.9.10.1',
      true,
    ])
    expect(walked('10.9.10.150 to 10.77.0.1 udp 53')).toBeNull()
  })
})

it('a host whose address no route leads back to sends, and hears no answer: in the walk and in the grid', () => {
  // 10.9.11.5/23 has its gateway 10.9.10.1 within reach; the gateway knows 10.9.10.0/24 alone.
  const plan = site(
    (plan) =>
      void the(plan.networks, 'staff').fixed.push({
        ...fixed('10.9.11.5', 'Desk', 'desk'),
        mask: 23,
      }),
  )
  const opened = openSite(indexPlan(plan), [])
  const walk = walkFlow(opened, {
    from: 'desk',
    fromAddress: 0x0a090b05,
    to: 'box',
    toAddress: 0x0a09140a,
    proto: 'tcp',
    port: 443,
  })
  expect([walk?.passes, walk?.lines.at(-1)]).toEqual([
    false,
    { kind: 'stopped', code: 'no-route', back: true },
  ])
  const cell = wholeGrid(opened).cells.find((c) => c.from === 'staff' && c.to === 'servers')
  expect(formatServices(cell!.allPairs)).toBe('nothing')
})

describe('a site with two gateways', () => {
  // The gateway without an uplink comes first in the plan.
  const withFirst: Change = (plan) => {
    plan.devices.unshift(
      device('first', 'First', 'gateway', '', 'Room', null, ports({ 1: access(31) })),
      hosts('lone', 'Lone', 'Room', 'yard', 1),
    )
    plan.networks.unshift({
      ...structuredClone(the(plan.networks, 'staff')),
      id: 'yard',
      vlan: 31,
      name: 'Yard',
      subnet: '10.8.1.0/24',
      gateway: '10.8.1.1',
      pool: { from: '10.8.1.10', to: '10.8.1.20' },
      routerId: 'first',
      fixed: [],
    })
    plan.links.push(link('first:1', 'lone:1', cat6(2)))
    for (const policy of plan.policies) policy.input = 'accept'
  }
  it.each([
    [INTERNET, GATEWAY],
    [GATEWAY, INTERNET],
    ['yard', GATEWAY],
    [GATEWAY, 'yard'],
    ['staff', GATEWAY],
  ])('the walk of the example of %s to %s ends as its cell says', (from, to) => {
    const cell = gridOf(withFirst).cell(from, to)
    const walk = walkOf(from, to, withFirst)
    const passesSome = cell.allPairs.icmp || cell.allPairs.tcp.length > 0
    expect(passesSome).toBe(true)
    expect(walk?.passes).toBe(true)
  })
})
