import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { access } from '#server/demo/build'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { contains, overlaps, parseIpv4, type Prefix4 } from '#core/address'
import { analyse } from '#core/findings'
import { site, the, type LoosePlan } from '../../tests/plans'
import {
  layAllotments,
  layTemplate,
  moveNetwork,
  placeNetwork,
  proposeSubnets,
  setPorts,
  spanOf,
  templateFrom,
} from '.'
import { namesIn, indexPlan } from '#core/queries'
import type { Network, Plan } from '#core/schema'
import { prefix, still, need } from '../../tests/fixtures/wired'

describe('subnets from needs', () => {
  const wanted = (change: (p: LoosePlan) => void) =>
    site((plan) => {
      plan.brief.needs.push(need('Cameras', 40, 40), need('Voice', 20, 30, 50))
      change(plan)
    })
  it('follow the habit: a /24 with the VLAN number as third octet', () => {
    const rows = proposeSubnets(
      wanted(() => undefined),
      still,
    )
    expect(rows.map((r) => [r.name, r.what, r.after])).toEqual([
      ['Management', 'kept', '10.9.99.0/24'],
      ['Staff', 'kept', '10.9.10.0/24'],
      ['Servers', 'kept', '10.9.20.0/24'],
      ['Cameras', 'new', '10.9.40.0/24'],
      ['Voice', 'new', '10.9.30.0/24'],
    ])
    expect(rows.find((r) => r.name === 'Voice')?.hosts).toBe(30)
  })
  it('or the tightest gap, by size from count and growth', () => {
    const rows = proposeSubnets(
      wanted((p) => void (p.site.subnetPolicy = 'best-fit')),
      still,
    )
    expect(rows.slice(3).map((r) => r.after?.split('/')[1])).toEqual(['26', '26'])
  })
  it('laid on the plan become networks that raise no finding of their own, and the need knows them', () => {
    const plan = wanted(() => undefined)
    const laid = layAllotments(plan, proposeSubnets(plan, still))
    expect(laid.networks).toHaveLength(5)
    expect(laid.brief.needs.map((n) => n.networkId)).toEqual(['vlan-40', 'vlan-30'])
    expect(analyse(indexPlan(laid), []).findings.filter((f) => f.code.startsWith('A'))).toEqual([])
    expect(proposeSubnets(laid, still).every((r) => r.what === 'kept')).toBe(true)
  })
  it('leave what is pinned or adopted, and say so; adopted ones move only when told', () => {
    const plan = wanted((plan) => {
      plan.site.subnetPolicy = 'best-fit'
      the(plan.networks, 'staff').pinned = true
    })
    const adopted = new Set(['sw'])
    const held = proposeSubnets(plan, { move: true, moveAdopted: false, adopted })
    expect(held.slice(0, 3).map((r) => [r.name, r.what, r.held])).toEqual([
      ['Management', 'kept', 'adopted'],
      ['Staff', 'kept', 'pinned'],
      ['Servers', 'moved', null],
    ])
    expect(proposeSubnets(plan, { move: true, moveAdopted: true, adopted })[0]).toMatchObject({
      what: 'moved',
      adopted: 1,
    })
  })
  it('say where there is no room, and then change nothing there', () => {
    const plan = site((plan) => {
      plan.site.supernet = '10.9.10.0/24'
      plan.networks = plan.networks.filter((n) => n.id === 'staff')
      plan.brief.needs.push(need('Cameras', 40))
    })
    const rows = proposeSubnets(plan, still)
    expect(rows.map((r) => r.what)).toEqual(['kept', 'no-room'])
    expect(layAllotments(plan, rows)).toEqual(plan)
  })
  it('never overlap, whatever is asked', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(900), fc.option(fc.integer({ min: 1, max: 300 }))), { maxLength: 12 }),
        fc.constantFrom('octet' as const, 'best-fit' as const),
        (needs, policy) => {
          const plan = site((plan) => {
            plan.site.subnetPolicy = policy
            needs.forEach(([count, vlan], i) => plan.brief.needs.push(need(`n${i}`, count, vlan)))
          })
          const laid = layAllotments(plan, proposeSubnets(plan, still))
          const all = laid.networks.map((n) => prefix(n.subnet))
          all.forEach((a, i) => all.slice(i + 1).forEach((b) => expect(overlaps(a, b)).toBe(false)))
          expect(new Set(laid.networks.map((n) => n.vlan)).size).toBe(laid.networks.length)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('a network that moves', () => {
  const servers = (p: Plan = site()) => the(p.networks, 'servers') as Network
  it('takes every address with it, each at its place from the start', () => {
    const moved = moveNetwork(
      { ...the(site().networks, 'staff'), fixed: servers().fixed.map((f) => ({ ...f, ip: '10.9.10.10' })) },
      prefix('10.9.44.0/24'),
    )
    expect([moved.gateway, moved.pool, moved.fixed[0]?.ip]).toEqual([
      '10.9.44.1',
      { from: '10.9.44.100', to: '10.9.44.199' },
      '10.9.44.10',
    ])
  })
  it('keeps excluded what is excluded, even where that reaches past its hosts', () => {
    const exclusions = [
      { from: '10.9.10.0', to: '10.9.10.255' },
      { from: '10.9.10.120', to: '10.9.11.20' },
      { from: '10.9.12.1', to: '10.9.12.9' },
    ]
    const moved = moveNetwork({ ...the(site().networks, 'staff'), exclusions }, prefix('10.9.44.0/25'))
    expect(moved.exclusions).toEqual([
      { from: '10.9.44.1', to: '10.9.44.126' },
      { from: '10.9.44.120', to: '10.9.44.126' },
    ])
  })
  it('into a smaller one, what has no place any more takes the lowest free one', () => {
    const moved = moveNetwork(
      { ...servers(), fixed: [{ ...servers().fixed[0]!, ip: '10.9.20.200' }] },
      prefix('10.9.20.0/28'),
    )
    expect([moved.gateway, moved.fixed[0]?.ip]).toEqual(['10.9.20.1', '10.9.20.2'])
  })
  it('is refused where it collides, leaves the block, or is too small for what is in it', () => {
    const plan = site()
    const code = (to: string) => {
      const result = placeNetwork(plan, 'servers', prefix(to))
      return result.ok ? 'ok' : result.problems[0]?.code
    }
    expect([
      code('10.9.10.128/25'),
      code('10.10.0.0/24'),
      code('10.9.77.0/32'),
      code('10.9.77.0/24'),
    ]).toEqual(['collides', 'outside-block', 'too-small', 'ok'])
    const placed = placeNetwork(plan, 'servers', prefix('10.9.77.0/24'))
    expect(placed.ok && the(placed.value.networks, 'servers').pinned).toBe(true)
  })
  it('any move keeps every address inside', () => {
    const plan = gullhavenPlan()
    fc.assert(
      fc.property(
        fc.constantFrom(...plan.networks),
        fc.integer({ min: 22, max: 27 }),
        fc.nat(63),
        (network, length, at) => {
          const to: Prefix4 = {
            base: (prefix('172.16.0.0/12').base + at * 2 ** (32 - length)) as Prefix4['base'],
            length,
          }
          const moved = moveNetwork(network, to)
          for (const text of [
            moved.gateway,
            ...moved.fixed.map((f) => f.ip),
            ...(moved.pool ? [moved.pool.from, moved.pool.to] : []),
          ]) {
            const ip = parseIpv4(text)
            expect(ip.ok && contains(to, ip.value)).toBe(true)
          }
          expect(new Set([moved.gateway, ...moved.fixed.map((f) => f.ip)]).size).toBe(moved.fixed.length + 1)
        },
      ),
      { numRuns: 150 },
    )
  })
})

describe('many ports at once', () => {
  it('spans are read and written', () => {
    expect(namesIn('1-3, lan, 7')).toEqual(['1', '2', '3', 'lan', '7'])
    expect(namesIn('5-2')).toEqual(['5-2'])
    expect(spanOf(['7', '1', '2', '3', 'lan', '2'])).toBe('1-3, 7, lan')
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { minLength: 1 }), (ns) => {
        expect(namesIn(spanOf(ns.map(String))).map(Number)).toEqual([...ns].sort((a, b) => a - b))
      }),
    )
  })
  it('are set together, or not at all', () => {
    const done = setPorts(site(), 'sw', '2-4', { mode: access(20) })
    expect(
      done.ok && the(done.value.devices, 'sw').ports.map((p) => (p.mode.mode === 'access' ? p.mode.vlan : 0)),
    ).toEqual([0, 20, 20, 20])
    const wrong = setPorts(site(), 'sw', '2-6', { mode: access(20) })
    expect(!wrong.ok && wrong.problems.map((p) => [p.code, p.values['text']])).toEqual([
      ['no-such-port', '5'],
      ['no-such-port', '6'],
    ])
    expect(setPorts(site(), 'sw', ' ', { mode: access(20) }).ok).toBe(false)
  })
  it('a template is a port map, and laid elsewhere gives the same', () => {
    const plan = gullhavenPlan()
    const template = templateFrom(plan, 'lab-switch', 'As the laboratory')
    expect(template?.ports[0]).toEqual({ names: '1-12', mode: access(10) })
    const cleared = setPorts(plan, 'lab-switch', '1-28', { mode: { mode: 'off' } })
    const back = cleared.ok && template && layTemplate(cleared.value, 'lab-switch', template)
    expect(back && back.ok && back.value).toEqual(plan)
    expect(template && layTemplate(plan, 'boat-switch', template).ok).toBe(false)
  })
})
