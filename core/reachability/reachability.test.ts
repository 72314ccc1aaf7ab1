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
  trunk,
  wifi,
} from '#server/demo/build'
import { formatIpv4, ipv4 } from '#core/address'
import { BLANK_PORT, indexPlan, type Weather } from '#core/model'
import { formatServices } from '#core/filter'
import {
  computeMatrix,
  currentFlow,
  flowTyped,
  GATEWAY,
  matrixOf as wholeGrid,
  INTERNET,
  openSite,
  readFlow,
  verdictsOf,
  walkFlow,
  type MatrixCell,
} from '.'

// Small sites worked out by hand. Hosts decide as in RFC 1122 section 3.3.1, gateways by longest prefix as in
// RFC 1812 section 5.2.4, leases as in RFC 2131, link-local addresses as in RFC 3927.

type Change = (plan: LoosePlan) => void
const gridOf = (change: Change = () => undefined, weather: Weather = []) => {
  const grid = computeMatrix(indexPlan(site(change)), weather)
  return {
    grid,
    cell: (from: string, to: string): MatrixCell => {
      const cell = grid.cells.find((c) => c.from === from && c.to === to)
      if (!cell) throw new Error(`no cell ${from} ${to}`)
      return cell
    },
  }
}
const passes = (from: string, to: string, change?: Change, weather?: Weather) =>
  formatServices(gridOf(change, weather).cell(from, to).allPairs)
const endpoint = (id: string, change: Change = () => undefined, weather: Weather = []) => {
  const found = openSite(indexPlan(site(change)), weather).endpoints.find((e) => e.id === id)
  if (!found) throw new Error(id)
  return found
}
/** The stop that ends the walk of a cell's example. */
function walkOf(from: string, to: string, change: Change = () => undefined, weather: Weather = []) {
  const { cell } = gridOf(change, weather)
  const flow = cell(from, to).example
  return flow && walkFlow(openSite(indexPlan(site(change)), weather), flow)
}
const stopOf = (from: string, to: string, change?: Change, weather?: Weather) =>
  walkOf(from, to, change, weather)?.lines.flatMap((l) => (l.kind === 'stopped' ? [l.code] : []))[0]

describe('the grid of the small site', () => {
  it.each([
    ['staff', 'servers', 'tcp 443, icmp'],
    ['servers', 'staff', 'nothing'],
    ['staff', INTERNET, 'all'],
    ['servers', INTERNET, 'nothing'],
    [INTERNET, 'staff', 'nothing'],
    ['staff', GATEWAY, 'tcp 53, udp 53, icmp'],
    ['servers', GATEWAY, 'tcp 53, udp 53, icmp'],
    [INTERNET, GATEWAY, 'nothing'],
    [GATEWAY, 'servers', 'all'],
    [GATEWAY, INTERNET, 'all'],
  ])('%s to %s: %s', (from, to, services) => {
    expect(passes(from, to)).toBe(services)
  })

  it('has nothing missing and nothing in excess', () => {
    const { grid } = gridOf()
    expect(
      grid.cells.filter(
        (cell) =>
          formatServices(cell.missing) !== 'nothing' ||
          (cell.judged && formatServices(cell.unexpected) !== 'nothing'),
      ),
    ).toEqual([])
    expect(grid.keys).toEqual(['staff', 'servers', 'management', GATEWAY, INTERNET])
  })

  it('is the same for the same plan, and has not touched it', () => {
    const plan = site()
    const before = JSON.stringify(plan)
    expect(JSON.stringify(computeMatrix(indexPlan(plan), []))).toBe(
      JSON.stringify(computeMatrix(indexPlan(plan), [])),
    )
    expect(JSON.stringify(plan)).toBe(before)
  })
})

describe('verdicts of some intents alone', () => {
  it('are those of the whole grid, in any weather', () => {
    for (const weather of [[], ['line'], ['sw'], ['sw.2-desk.1']]) {
      const plan = site((p) => void p.policies[0]?.rules.shift())
      const opened = openSite(indexPlan(plan), weather)
      expect(verdictsOf(opened, plan.intents)).toEqual(wholeGrid(opened).verdicts)
      expect(verdictsOf(opened, plan.intents.slice(1, 2))).toEqual(wholeGrid(opened).verdicts.slice(1, 2))
    }
  })
})

describe('addresses of hosts', () => {
  it('a client leases from the pool that its VLAN leads to', () => {
    expect(endpoint('desk')).toMatchObject({ how: 'leased', networkId: 'staff', prefixLength: 24 })
    expect(endpoint('desk').ranges.map((r) => `${formatIpv4(r.from)} ${formatIpv4(r.to)}`)).toEqual([
      '10.9.10.100 10.9.10.199',
    ])
  })
  it('in the wrong VLAN it leases there', () => {
    expect(
      endpoint('desk', (plan) => {
        the(plan.networks, 'servers').pool = { from: '10.9.20.100', to: '10.9.20.120' }
        the(plan.networks, 'servers').dhcp = 'serve'
        portOf(plan, 'sw', 'p2').mode = access(20) as never
      }),
    ).toMatchObject({ how: 'leased', networkId: 'servers', wants: 'staff' })
  })
  it.each<[string, Change]>([
    ['without a server', (p) => void (the(p.networks, 'staff').dhcp = 'none')],
    ['where the VLAN is cut off', (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 20) as never)],
    [
      'where the pool is not in the interface’s subnet',
      (p) => void (the(p.networks, 'staff').gateway = '10.9.77.1'),
    ],
  ])('%s it gives itself a link-local address and reaches nothing', (_, change) => {
    expect(endpoint('desk', change)).toMatchObject({ how: 'link-local', networkId: null, gateway: null })
    expect(passes('staff', INTERNET, change)).toBe('nothing')
    expect(stopOf('staff', INTERNET, change)).toBe('no-address')
  })
  it('a reserved address is held only in its own network', () => {
    const reserve: Change = (plan) =>
      void the(plan.networks, 'staff').fixed.push(fixed('10.9.10.5', 'Desk', 'desk', 'reserved') as never)
    expect(endpoint('desk', reserve)).toMatchObject({ how: 'reserved' })
    expect(
      endpoint('desk', (p) => (reserve(p), void (the(p.networks, 'staff').dhcp = 'none'))),
    ).toMatchObject({ how: 'link-local' })
  })
})

describe('hosts decide by their own mask and gateway', () => {
  const box =
    (change: (f: LoosePlan['networks'][number]['fixed'][number]) => void): Change =>
    (plan) => {
      const entry = the(plan.networks, 'servers').fixed[0]
      if (entry) change(entry)
    }
  it('a mask too wide makes a far host look near: the reply is never sent to the gateway', () => {
    const wide = box((f) => void (f.mask = 16))
    expect(passes('staff', 'servers', wide)).toBe('nothing')
    expect(stopOf('staff', 'servers', wide)).toBe('neighbour-unanswered')
  })
  it('a wrong gateway loses the reply', () => {
    expect(
      stopOf(
        'staff',
        'servers',
        box((f) => void (f.gateway = '10.9.20.254')),
      ),
    ).toBe('gateway-unanswered')
  })
  it('a gateway that no VLAN leads to is not heard, whoever is called', () => {
    const cut: Change = (p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10) as never)
    for (const to of ['staff', INTERNET, GATEWAY])
      expect(stopOf('servers', to, cut)).toBe(to === GATEWAY ? 'neighbour-unanswered' : 'gateway-unanswered')
  })
  it('a gateway off its own link is never asked', () => {
    expect(
      stopOf(
        'staff',
        'servers',
        box((f) => void (f.gateway = '10.9.10.1')),
      ),
    ).toBe('gateway-off-link')
  })
  it('a right mask written out changes nothing', () => {
    expect(
      passes(
        'staff',
        'servers',
        box((f) => Object.assign(f, { mask: 24, gateway: '10.9.20.1' })),
      ),
    ).toBe('tcp 443, icmp')
  })
})

describe('rules', () => {
  const rules = (p: LoosePlan) => p.policies[0]?.rules ?? []
  it('a drop before an accept wins, one after it does nothing', () => {
    const drop = {
      ...rule('d', inNetwork('staff'), inNetwork('servers'), ['https'], ''),
      action: 'drop' as const,
    }
    expect(passes('staff', 'servers', (p) => void rules(p).unshift(drop as never))).toBe('icmp')
    expect(passes('staff', 'servers', (p) => void rules(p).push(drop as never))).toBe('tcp 443, icmp')
  })
  it('replies follow an accepted flow without a rule of their own', () => {
    expect(passes('staff', 'servers')).not.toBe('nothing')
    expect(passes('servers', 'staff')).toBe('nothing')
  })
  it('what no intent names is in excess, what an intent misses is missing', () => {
    const opened = gridOf(
      (p) => void rules(p).push(rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], '') as never),
    ).cell('servers', 'staff')
    expect(formatServices(opened.unexpected)).toBe('tcp 22')
    const closed = gridOf((p) => void rules(p).splice(0, 1))
    expect(formatServices(closed.cell('staff', 'servers').missing)).toBe('tcp 443, icmp')
    expect(closed.grid.verdicts.find((v) => v.intentId === 'i1')).toMatchObject({
      example: { from: 'desk', to: 'box' },
    })
  })
  it('a rule for one address parts its network', () => {
    const change: Change = (plan) => {
      rules(plan).push({
        ...rule('half', { kind: 'prefix', prefix: '10.9.10.128/25' }, inNetwork('servers'), ['ssh'], ''),
      } as never)
    }
    const cell = gridOf(change).cell('staff', 'servers')
    expect([formatServices(cell.allPairs), formatServices(cell.somePairs)]).toEqual([
      'tcp 443, icmp',
      'tcp 22',
    ])
  })
  it('the walk names the rule that decides', () => {
    expect(walkOf('staff', 'servers')?.lines.find((l) => l.kind === 'rule')).toMatchObject({
      ruleId: 'r1',
      number: 1,
      action: 'accept',
    })
    expect(walkOf('servers', 'staff')?.lines.find((l) => l.kind === 'rule')).toMatchObject({
      ruleId: null,
      action: 'drop',
    })
    expect(stopOf('servers', 'staff')).toBe('rule')
  })
})

describe('the walk', () => {
  it('goes hop by hop with the tag on each wire', () => {
    const lines = walkOf('staff', 'servers')?.lines ?? []
    expect(lines.map((l) => (l.kind === 'hop' ? `${l.out.deviceId} ${l.tag}` : l.kind))).toEqual([
      'host',
      'desk 0',
      'sw 10',
      'route',
      'rule',
      'gate 20',
      'sw 0',
      'delivered',
    ])
  })
  it(
    'ends at the port that drops the VLAN: the sender where it does not send, the ' +
      'receiver where it does not take',
    () => {
      const dropped = (change: Change) =>
        walkOf('staff', INTERNET, change)?.lines.flatMap((line) =>
          line.kind === 'dropped-at' ? [`${line.port.deviceId} ${line.port.portId}`] : [],
        )
      expect(dropped((p) => void (portOf(p, 'sw', 'p1').mode = trunk(99, 20) as never))).toEqual(['sw p1'])
      expect(dropped((p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 20) as never))).toEqual([
        'gate p2',
      ])
    },
  )
  it('is null where an end is gone', () => {
    const flow = gridOf().cell('staff', 'servers').example
    expect(flow && walkFlow(openSite(indexPlan(site()), ['box']), flow)).toBeNull()
  })
})

describe('weather', () => {
  it.each<[string, Weather, string]>([
    ['the uplink', ['line'], 'no-uplink'],
    ['the terminal', ['ont'], 'no-uplink'],
    ['the cable to it', ['ont.lan-gate.1'], 'no-uplink'],
  ])('%s down: the internet is gone, the inside stays', (_, weather, stop) => {
    expect(passes('staff', INTERNET, undefined, weather)).toBe('nothing')
    expect(stopOf('staff', INTERNET, undefined, weather)).toBe(stop)
    expect(passes('staff', 'servers', undefined, weather)).toBe('tcp 443, icmp')
  })
  it('the switch down: everybody is alone', () => {
    expect(passes('staff', 'servers', undefined, ['sw'])).toBe('nothing')
  })
  it('the gateway down: nobody gets a lease', () => {
    expect(endpoint('desk', undefined, ['gate'])).toMatchObject({ how: 'link-local' })
  })
  it('a second uplink takes over by priority, and one with a shared address lets nobody dial in', () => {
    const second: Change = (plan) => {
      the(plan.devices, 'gate').ports.push({ id: 'p3', name: '3', mode: { mode: 'wan' }, ...BLANK_PORT })
      the(plan.devices, 'internet').ports.push({
        id: 'p2',
        name: '2',
        mode: { mode: 'plain' },
        ...BLANK_PORT,
      })
      plan.links.push(link('internet:2', 'gate:3', { kind: 'line' }) as never)
      plan.uplinks.push({
        ...the(plan.uplinks, 'line'),
        id: 'spare',
        name: 'Spare',
        portId: 'p3',
        priority: 2,
        outside: 'shared',
      })
      plan.policies[0]?.rules.push(
        rule('dial', { kind: 'internet' }, { kind: 'gateway' }, ['ssh'], '', 'input') as never,
      )
    }
    const used = (weather: Weather) =>
      walkOf('staff', INTERNET, second, weather)?.lines.flatMap((line) =>
        line.kind === 'translate' ? [line.exit.id] : [],
      )
    expect([used([]), used(['line'])]).toEqual([['line'], ['spare']])
    expect(passes(INTERNET, GATEWAY, second)).toBe('tcp 22')
    expect(passes(INTERNET, GATEWAY, second, ['line'])).toBe('nothing')
    expect(stopOf(INTERNET, GATEWAY, second, ['line'])).toBe('shared-address')
  })
})

describe('one link, several hosts', () => {
  it('hosts of one SSID with client isolation do not see each other, without it they do', () => {
    const air =
      (isolation: boolean): Change =>
      (plan) => {
        plan.devices.push(
          device(
            'ap',
            'AP',
            'access-point',
            'A2',
            'Room',
            'management',
            ports({ 1: trunk(99, 10), radio: { mode: 'radio' } }),
          ) as never,
        )
        plan.devices.push(
          hosts('one', 'One', 'Room', 'staff', 1) as never,
          hosts('two', 'Two', 'Room', 'staff', 1) as never,
        )
        portOf(plan, 'sw', 'p4').mode = trunk(99, 10) as never
        plan.links.push(
          link('sw:4', 'ap:1', cat6(4)) as never,
          link('ap:radio', 'one:1', wifi('air')) as never,
          link('ap:radio', 'two:1', wifi('air')) as never,
        )
        plan.ssids.push({ id: 'air', name: 'Air', networkId: 'staff', isolation, apIds: ['ap'] })
      }
    const between = (isolation: boolean) => {
      const opened = openSite(indexPlan(site(air(isolation))), [])
      const flow = {
        from: 'one',
        fromAddress: 0x0a090a64,
        to: 'two',
        toAddress: 0x0a090a65,
        proto: 'tcp' as const,
        port: 80,
      }
      return walkFlow(opened, flow)?.lines.at(-1)
    }
    expect(between(true)).toMatchObject({ kind: 'stopped', code: 'isolated' })
    expect(between(false)).toEqual({ kind: 'delivered' })
    expect(passes('staff', INTERNET, air(true))).toBe('all')
  })
})

describe('a flow whose end has another address by now', () => {
  it('starts from what it may have, and keeps what it still has', () => {
    const opened = openSite(indexPlan(site()), [])
    const flow = {
      from: 'desk',
      fromAddress: 0xa9fe0101,
      to: 'box',
      toAddress: 0x0a09140a,
      proto: 'tcp' as const,
      port: 443,
    }
    expect(walkFlow(opened, currentFlow(opened, flow))).toMatchObject({
      passes: true,
      fromText: '10.9.10.100',
      toText: '10.9.20.10',
    })
    expect(currentFlow(opened, { ...flow, fromAddress: 0x0a090a70 }).fromAddress).toBe(0x0a090a70)
  })
})
describe('two gateways', () => {
  // desk's network sits on gate; a second gateway `far` on the staff network leads to 10.8.1.0/24 behind it.
  const far =
    (routes: LoosePlan['routes']): Change =>
    (plan) => {
      plan.devices.push(
        device(
          'far',
          'Far gateway',
          'gateway',
          '',
          'Room',
          null,
          ports({ 1: access(10), 2: access(31) }),
        ) as never,
        hosts('lone', 'Lone', 'Room', 'yard', 1) as never,
      )
      plan.networks.push(
        network(
          'yard',
          31,
          'Yard',
          '10.8.1.0/24',
          '10.8.1.1',
          ['10.8.1.10', '10.8.1.20'],
          1,
          [],
          'far',
        ) as never,
      )
      plan.networks.push(
        network('transit', 10, 'Transit', '10.9.10.0/24', '10.9.10.2', null, 0, [], 'far') as never,
      )
      portOf(plan, 'sw', 'p4').mode = access(10) as never
      plan.links.push(link('sw:4', 'far:1', cat6(2)) as never, link('far:2', 'lone:1', cat6(2)) as never)
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
    expect(stopOf('yard', 'staff', far([there, back]))).toBe('asymmetric')
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
      const joined =
        (change: Change = () => undefined): Change =>
        (plan) => {
          plan.devices.push(
            device(
              'far',
              'Far gateway',
              'gateway',
              '',
              'Room',
              null,
              ports({ 1: plain, 2: access(31) }),
            ) as never,
            hosts('lone', 'Lone', 'Room', 'yard', 1) as never,
          )
          plan.networks.push(
            network(
              'yard',
              31,
              'Yard',
              '10.8.1.0/24',
              '10.8.1.1',
              ['10.8.1.10', '10.8.1.20'],
              1,
              [],
              'far',
            ) as never,
          )
          the(plan.devices, 'gate').ports.push({
            ...structuredClone(portOf(plan, 'gate', 'p2')),
            id: 'p5',
            name: '5',
          } as never)
          portOf(plan, 'gate', 'p5').mode = { mode: 'routed', address: '10.9.255.1/30' } as never
          portOf(plan, 'far', 'p1').mode = { mode: 'routed', address: '10.9.255.2/30' } as never
          plan.links.push(
            link('gate:5', 'far:1', cat6(2)) as never,
            link('far:2', 'lone:1', cat6(2)) as never,
          )
          plan.policies.push({ deviceId: 'far', forward: 'accept', input: 'accept', rules: [], pairs: [] })
          plan.policies[0]!.forward = 'accept'
          plan.routes.push(
            { id: 'there', deviceId: 'gate', prefix: '10.8.1.0/24', via: '10.9.255.2', metric: 0 },
            { id: 'back', deviceId: 'far', prefix: '10.9.0.0/16', via: '10.9.255.1', metric: 0 },
          )
          change(plan)
        }
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
          joined((p) => void (portOf(p, 'far', 'p1').mode = access(10) as never)),
        ),
      ).toBe('neighbour-unanswered')
      expect(
        stopOf(
          'servers',
          'yard',
          joined(
            (p) => void (portOf(p, 'far', 'p1').mode = { mode: 'routed', address: '10.9.254.2/30' } as never),
          ),
        ),
      ).toBe('neighbour-unanswered')
      // What comes in by a routed port comes from no network: a rule for every network does not speak of it.
      const strict = joined((plan) => {
        plan.policies[0]!.forward = 'drop'
        plan.policies[0]!.rules.push(rule('in', inside, inNetwork('servers'), ['ssh'], '') as never)
      })
      expect(passes('yard', 'servers', strict)).toBe('nothing')
      expect(
        passes(
          'yard',
          'servers',
          (plan) => (
            strict(plan),
            void plan.policies[0]!.rules.push(
              rule(
                'by',
                { kind: 'prefix', prefix: '10.8.0.0/16' },
                inNetwork('servers'),
                ['ssh'],
                '',
              ) as never,
            )
          ),
        ),
      ).toBe('tcp 22')
    },
  )
  it('plain ports on a gateway carry nothing', () => {
    expect(
      passes('yard', GATEWAY, (p) => (far([])(p), void (portOf(p, 'far', 'p2').mode = plain as never))),
    ).toBe('nothing')
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
      } as never),
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

it(
  'where no rule and no intent speaks, a default that accepts lets through unasked, and ' +
    'shows a flow that passes',
  () => {
    const opened = openSite(
      indexPlan(
        site((plan) => {
          plan.policies[0]!.forward = 'accept'
          plan.forwards.push({
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
          } as never)
        }),
      ),
      [],
    )
    const cell = wholeGrid(opened).cells.find((c) => c.from === INTERNET && c.to === 'servers')
    expect([formatServices(cell!.allPairs), formatServices(cell!.unexpected), cell!.example?.port]).toEqual([
      'tcp 443',
      'tcp 443',
      443,
    ])
  },
)

describe('a site with two gateways', () => {
  // The gateway without an uplink comes first in the plan.
  const withFirst: Change = (plan) => {
    plan.devices.unshift(
      device('first', 'First', 'gateway', '', 'Room', null, ports({ 1: access(31) })) as never,
      hosts('lone', 'Lone', 'Room', 'yard', 1) as never,
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
    plan.links.push(link('first:1', 'lone:1', cat6(2)) as never)
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
