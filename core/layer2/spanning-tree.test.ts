import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { access, cat6, device, hosts, link, plain, row, trunk } from '#server/demo/build'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import { BLANK_BRIEF, BLANK_SITE, BLANK_WIFI, BLANK_WORK } from '#core/edit'
import { indexPlan, down } from '#core/queries'
import { PLAN_FORMAT, PLAN_VERSION } from '#core/format'
import type { Device, Link, Plan, PortRef } from '#core/schema'
import { bridgeNode, endNode, layer2Of, vlansNeededOnLinks, pathCost, spanningTree, trunkProposals } from '.'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'

const bridge = (
  id: string,
  kind: 'switch' | 'unmanaged' = 'switch',
  priority: number | null = null,
): Device => ({
  ...device(
    id,
    id,
    kind,
    '',
    'Room',
    null,
    row(
      8,
      Object.fromEntries([1, 2, 3, 4, 5, 6, 7, 8].map((n) => [n, kind === 'switch' ? access(1) : plain])),
    ),
  ),
  stpPriority: priority,
})
const planOf = (devices: readonly Device[], links: readonly Link[]): Plan => ({
  format: PLAN_FORMAT,
  version: PLAN_VERSION,
  site: { ...BLANK_SITE, name: 'Rings', supernet: '10.0.0.0/8' },
  brief: BLANK_BRIEF,
  models: [],
  templates: [],
  networks: [],
  devices,
  links,
  ssids: [],
  wifi: BLANK_WIFI,
  work: BLANK_WORK,
  uplinks: [],
  services: [],
  groups: [],
  schedules: [],
  policies: [],
  routes: [],
  policyRoutes: [],
  forwards: [],
  tunnels: [],
  ipsec: [],
  intents: [],
})
const tree = (devices: readonly Device[], links: readonly Link[], failed: readonly string[] = []) => {
  const index = indexPlan(planOf(devices, links))
  return {
    ...spanningTree(index, new Set(failed)),
    loops: layer2Of(index, failed.map(down)).loops(),
  }
}
const names = (refs: readonly PortRef[]) => refs.map((r) => `${r.deviceId}:${r.portId.slice(1)}`)
const cable = (a: string, b: string, lag: string | null = null): Link => ({ ...link(a, b, cat6(10)), lag })

describe('path costs', () => {
  // IEEE 802.1D-2004 table 17-3, recommended values.
  it.each([
    [10, 2_000_000],
    [100, 200_000],
    [1000, 20_000],
    [10_000, 2000],
    [100_000, 200],
    [1_000_000, 20],
  ])('%d Mb/s costs %d', (mbps, cost) => expect(pathCost(mbps)).toBe(cost))
})

describe('three switches in a ring, by hand (IEEE 802.1D clause 17.6)', () => {
  const ring = [cable('a:1', 'b:1'), cable('b:2', 'c:2'), cable('a:2', 'c:1')]
  it('the lowest identifier is root; the higher of the two others blocks the far cable', () => {
    const found = tree([bridge('a'), bridge('b'), bridge('c')], ring)
    expect([found.rootId, names(found.blocked), found.loops]).toEqual(['a', ['c:2'], []])
  })
  it('priority comes before the identifier', () => {
    const found = tree([bridge('a'), bridge('b'), bridge('c', 'switch', 4096)], ring)
    expect([found.rootId, names(found.blocked)]).toEqual(['c', ['b:1']])
  })
  it('without one of its cables nothing is blocked', () => {
    for (const link of ring)
      expect(tree([bridge('a'), bridge('b'), bridge('c')], ring, [link.id]).blocked).toEqual([])
  })
  it('a slow cable is left out although it is the shorter way', () => {
    const slow: Device = {
      ...bridge('a'),
      ports: bridge('a').ports.map((p) => (p.id === 'p2' ? { ...p, speedMbps: 10 } : p)),
    }
    const far: Device = {
      ...bridge('c'),
      ports: bridge('c').ports.map((p) => (p.id === 'p1' ? { ...p, speedMbps: 10 } : p)),
    }
    expect(names(tree([slow, bridge('b'), far], ring).blocked)).toEqual(['c:1'])
  })
})

describe('two cables between two switches', () => {
  const pair = (lag: string | null) => [cable('a:1', 'b:1', lag), cable('a:2', 'b:2', lag)]
  it('are a loop that the lower port keeps', () =>
    expect(names(tree([bridge('a'), bridge('b')], pair(null)).blocked)).toEqual(['b:2']))
  it('are one as a bundle', () => expect(tree([bridge('a'), bridge('b')], pair('x')).blocked).toEqual([]))
  it('a bundle is blocked whole', () => {
    const links = [...pair('x'), cable('a:3', 'c:1'), cable('b:3', 'c:2')]
    const slowC: Device = { ...bridge('c', 'switch', 0) }
    expect(names(tree([bridge('a'), bridge('b'), slowC], links).blocked)).toEqual(['b:1', 'b:2'])
  })
})

describe('what does not speak', () => {
  it('passes the protocol on: a ring through it is broken elsewhere', () => {
    const found = tree(
      [bridge('a'), bridge('b'), bridge('u', 'unmanaged')],
      [cable('a:1', 'b:1'), cable('a:2', 'u:1'), cable('b:2', 'u:2')],
    )
    expect([names(found.blocked), found.loops]).toEqual([['b:2'], []])
  })
  it('in a ring by itself is a loop that nobody breaks', () => {
    const found = tree(
      [bridge('u', 'unmanaged'), bridge('v', 'unmanaged'), bridge('a')],
      [cable('u:1', 'v:1'), cable('u:2', 'v:2'), cable('a:1', 'u:3')],
    )
    expect([found.loops, found.blocked]).toEqual([[['u', 'v']], []])
  })
  // Frames of the protocol carry no tag (IEEE 802.1D-2004 clause 9): what a VLAN does to untagged frames decides.
  const RINGS = [
    { what: 'on one access VLAN at both of its ports', ports: [access(1), access(1), access(1)], shut: true },
    {
      what: 'on one native VLAN at both of its ports',
      ports: [trunk(9, 1), trunk(9, 1), trunk(9, 1)],
      shut: true,
    },
    {
      what: 'untagged on one side, tagged on the other',
      ports: [access(1), trunk(9, 1), trunk(9, 1)],
      ring: true,
    },
    {
      what: 'no untagged frames at all',
      ports: [trunk(null, 1), trunk(null, 1), trunk(null, 1)],
      ring: true,
    },
    { what: 'on two VLANs: there is no ring', ports: [access(1), access(2), access(2)] },
  ]
  it.each(RINGS)('sorts by VLAN: $what', ({ ports, shut, ring }) => {
    const [first = access(1), second = access(1), far = access(1)] = ports
    const [blocked, loops] = [shut ? ['b:2'] : [], ring ? [['a', 'b', 'g']] : []]
    const gateway: Device = {
      ...device('g', 'g', 'gateway', '', 'Room', null, row(2, { 1: first, 2: second })),
    }
    const [one, two] = [bridge('a'), bridge('b')]
    const at = (from: Device, id: string, mode: Device['ports'][number]['mode']): Device => ({
      ...from,
      ports: from.ports.map((port) => (port.id === id ? { ...port, mode } : port)),
    })
    const found = tree(
      [at(one, 'p2', first), at(two, 'p2', far), gateway],
      [cable('a:1', 'b:1'), cable('a:2', 'g:1'), cable('b:2', 'g:2')],
    )
    expect([names(found.blocked), found.loops]).toEqual([blocked, loops])
  })
  it('both ends of one switch on one unmanaged one: the second is blocked', () => {
    expect(
      names(
        tree([bridge('a'), bridge('u', 'unmanaged')], [cable('a:1', 'u:1'), cable('a:2', 'u:2')]).blocked,
      ),
    ).toEqual(['a:2'])
  })
})

describe('any meshed plan', () => {
  const edges = fc.uniqueArray(
    fc.tuple(fc.nat(5), fc.nat(5)).filter(([a, b]) => a < b),
    { maxLength: 12, selector: ([a, b]) => `${a} ${b}` },
  )
  it('keeps together what cables join, without a ring', () => {
    fc.assert(
      fc.property(edges, (list) => {
        const used = new Map<number, number>()
        const port = (nth: number) => {
          used.set(nth, (used.get(nth) ?? 0) + 1)
          return `${'abcdef'[nth]}:${used.get(nth)}`
        }
        const links = list.map(([a, b]) => cable(port(a), port(b)))
        const { blocked } = tree(
          ['a', 'b', 'c', 'd', 'e', 'f'].map((id) => bridge(id)),
          links,
        )
        const shut = new Set(blocked.map((r) => `${r.deviceId}/${r.portId}`))
        const open = links.filter((l) => ![l.a, l.b].some((r) => shut.has(`${r.deviceId}/${r.portId}`)))
        const islands = (of: readonly Link[]) => {
          const at = new Map('abcdef'.split('').map((id) => [id, id]))
          for (const link of of) {
            const [x, y] = [at.get(link.a.deviceId), at.get(link.b.deviceId)]
            for (const [id, home] of at) if (home === y) at.set(id, x as string)
          }
          return new Set(at.values()).size
        }
        expect(islands(open)).toBe(islands(links))
        // A forest: as many cables as devices less islands.
        expect(open).toHaveLength(6 - islands(links))
      }),
      { numRuns: 200 },
    )
  })
})

describe('frames', () => {
  it('do not cross a blocked port, and do once the other way has failed', () => {
    const change = (plan: LoosePlan) => {
      plan.devices.push(
        device(
          's2',
          'Second',
          'switch',
          'S8P',
          'Attic',
          'management',
          row(4, { 1: trunk(99, 10), 2: trunk(99, 10), 3: access(10) }),
        ),
        hosts('far', 'Far desk', 'Attic', 'staff', 1),
      )
      portOf(plan, 'sw', 'p4').mode = trunk(99, 10)
      the(plan.devices, 'sw').ports.push({
        ...structuredClone(portOf(plan, 'sw', 'p4')),
        id: 'p5',
        name: '5',
      })
      plan.links.push(
        link('sw:4', 's2:1', cat6(9)),
        link('sw:5', 's2:2', cat6(9)),
        link('s2:3', 'far:1', cat6(3)),
      )
    }
    const fabric = layer2Of(indexPlan(site(change)), [])
    expect(names(fabric.tree.blocked)).toEqual(['sw:5'])
    expect(fabric.egress(bridgeNode('sw', 10)).some((h) => h.link.id === 'sw.5-s2.2')).toBe(false)
    const storm = layer2Of(indexPlan(site(change)), [down('sw.4-s2.1')])
    expect(storm.tree.blocked).toEqual([])
    expect(storm.bfsTree(bridgeNode('gate', 10)).has(endNode('far', 'p1'))).toBe(true)
  })
})

describe('the least tags', () => {
  const proposals = (change: (p: LoosePlan) => void) =>
    trunkProposals(indexPlan(site(change)), new Set()).map((proposal) => [
      `${proposal.port.deviceId}:${proposal.port.portId}`,
      proposal.add,
      proposal.prune,
    ])
  it('a right plan has none', () => expect(proposals(() => undefined)).toEqual([]))
  it('add what an edge needs and prune what none does', () => {
    expect(proposals((p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10)))).toEqual([
      ['gate:p2', [20], []],
    ])
    expect(
      proposals((plan) => {
        plan.devices = plan.devices.filter((d) => d.id !== 'box')
        plan.links = plan.links.filter((l) => l.b.deviceId !== 'box')
      }),
    ).toEqual([
      ['gate:p2', [], [20]],
      ['sw:p1', [], [20]],
    ])
  })
  it('also serve the cable that stands in for another', () => {
    const change = (plan: LoosePlan) => {
      plan.devices.push(
        device(
          's2',
          'Second',
          'switch',
          'S8P',
          'Attic',
          'management',
          row(4, { 1: trunk(99, 10), 2: trunk(99), 3: access(10) }),
        ),
        hosts('far', 'Far desk', 'Attic', 'staff', 1),
      )
      portOf(plan, 'sw', 'p4').mode = trunk(99, 10)
      the(plan.devices, 'sw').ports.push({
        ...structuredClone(portOf(plan, 'sw', 'p4')),
        id: 'p5',
        name: '5',
        mode: trunk(99),
      })
      plan.links.push(
        link('sw:4', 's2:1', cat6(9)),
        link('sw:5', 's2:2', cat6(9)),
        link('s2:3', 'far:1', cat6(3)),
      )
    }
    expect(proposals(change)).toEqual([
      ['sw:p5', [10], []],
      ['s2:p2', [10], []],
    ])
    expect(
      [...(vlansNeededOnLinks(indexPlan(site(change)), new Set()).get('sw.5-s2.2') ?? [])].sort(),
    ).toEqual([10, 99])
  })
})

describe('stations that roam', () => {
  it('do not make a ring of the access points they use', () => {
    expect(
      trunkProposals(indexPlan(gullhavenPlan()), new Set()).map((proposal) => [
        proposal.port.deviceId,
        proposal.port.portId,
        proposal.add,
        proposal.prune,
      ]),
    ).toEqual([['lab-switch', 'p22', [40], []]])
    expect(trunkProposals(indexPlan(gullhavenClean()), new Set())).toEqual([])
  })
})
