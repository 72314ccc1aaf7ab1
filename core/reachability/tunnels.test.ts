import { aTunnel, peerOf } from '../../tests/fixtures/tunnels'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inNetwork, rule, theDevice, toGateway } from '#server/demo/build'
import { formatIpv4, type Ipv4 } from '#core/address'
import { analyse } from '#core/findings'
import { indexPlan, down } from '#core/queries'
import type { Plan, Rule, Selector } from '#core/schema'
import { decide, formatServices, includes, policiesOf } from '#core/filter'
import { busyPlan } from '../../tests/large'
import { site, the } from '../../tests/plans'
import { flowBetween, matrixOf, peerKey, GATEWAY, INTERNET, type Site } from '.'
import {
  type Change,
  rules,
  spare,
  opened,
  ip,
  party,
  OUT,
  between,
  fromDesk,
  EMPTY,
} from '../../tests/fixtures/ways'

describe('tunnels', () => {
  const roads: Change = (plan) => {
    plan.tunnels.push(
      aTunnel({
        peers: [
          peerOf('far', 'site', ['10.20.0.0/22'], ['10.9.10.0/24', '10.9.200.0/24'], 'far.example:51820'),
          peerOf('keeper', 'person', ['10.9.200.9/32'], ['10.9.0.0/16']),
        ],
      }),
    )
    rules(plan).push(
      rule('a', { kind: 'peer', id: 'far' }, inNetwork('staff'), ['ssh'], ''),
      rule('b', inNetwork('staff'), { kind: 'tunnel', id: 'wg' }, ['https'], ''),
      rule('c', { kind: 'tunnel', id: 'wg' }, toGateway, ['ping'], '', 'input'),
    )
  }
  it('carry what both ends allow and the rules accept', () => {
    const site = opened(roads)
    expect(between(site, 'far', '10.20.0.5', 'desk', '10.9.10.100')).toBe('tcp 22')
    expect(between(site, 'desk', '10.9.10.100', 'far', '10.20.0.5')).toBe('tcp 443')
    expect(between(site, 'far', '10.20.0.5', 'box', '10.9.20.10')).toBe('peer-sends-not')
    expect(between(site, 'keeper', '10.9.200.9', 'gateway', '10.9.200.1')).toBe('icmp')
    // The far end takes from staff alone.
    expect(between(site, 'box', '10.9.20.10', 'far', '10.20.0.5')).toBe('peer-refuses')
  })
  it('the longest of the allowed prefixes has an address, and of two alike the later peer', () => {
    const site = opened(
      (plan) => (
        roads(plan),
        void plan.tunnels[0]!.peers.push(
          peerOf('part', 'site', ['10.20.1.0/24'], ['10.9.10.0/24']),
          peerOf('twin', 'person', ['10.9.200.9/32'], ['10.9.10.0/24']),
        )
      ),
    )
    expect(between(site, 'far', '10.20.1.5', 'desk', '10.9.10.100')).toBe('no-peer')
    expect(between(site, 'keeper', '10.9.200.9', 'desk', '10.9.10.100')).toBe('no-peer')
    // It is refused as it comes in, not when the answer goes astray.
    expect(
      flowBetween(
        site,
        { party: party(site, 'far'), address: ip('10.20.1.5') },
        { party: party(site, 'desk'), address: ip('10.9.10.100') },
      ).request.stop,
    ).toBe('no-peer')
  })
  it('we dial over any uplink; who dials us needs the first that can be called', () => {
    const two: Change = (p) => (roads(p), spare(p), void (the(p.uplinks, 'spare').outside = 'shared'))
    const up = (s: Site) => s.tunnels[0]?.peers.map((x) => x.up)
    expect([
      up(opened(two)),
      up(opened(two, [down('line')])),
      up(opened(two, [down('far')])),
      up(opened(two, [down('wg')])),
    ]).toEqual([
      [true, true],
      [true, false],
      [false, true],
      [false, false],
    ])
  })
  it('stand in the grid, as rows and columns of their own', () => {
    const grid = matrixOf(opened(roads))
    expect(grid.keys.slice(-4)).toEqual([peerKey('far'), peerKey('keeper'), GATEWAY, INTERNET])
    expect(
      formatServices(
        grid.cells.find((c) => c.from === peerKey('far') && c.to === 'staff')?.allPairs ?? {
          tcp: [],
          udp: [],
          icmp: false,
        },
      ),
    ).toBe('tcp 22')
  })
  it('peers who know a network of ours by another prefix call it by that, and take what comes from there', () => {
    const mapped =
      (theirAllowed: string[]): Change =>
      (plan) => (
        roads(plan),
        void Object.assign(plan.tunnels[0]!, {
          mapped: [{ id: 'm', inside: '10.9.10.0/24', outside: '10.99.10.0/24' }],
        }),
        void (plan.tunnels[0]!.peers[0]!.theirAllowed = theirAllowed)
      )
    const both = (allowed: string[], address = '10.9.10.100') => {
      const site = opened(mapped(allowed))
      return [
        between(site, 'far', '10.20.0.5', 'desk', address),
        between(site, 'desk', address, 'far', '10.20.0.5'),
      ]
    }
    expect(both(['10.99.10.0/24'])).toEqual(['tcp 22', 'tcp 443'])
    // By its real address it can be called where that is allowed, but what it sends comes from the other.
    expect(both(['10.9.10.0/24'])).toEqual(['tcp 22', 'peer-refuses'])
    expect(both(['10.99.11.0/24'])).toEqual(['peer-sends-not', 'peer-refuses'])
    // Half of the other prefix is half of the network.
    expect([both(['10.99.10.128/25'])[1], both(['10.99.10.128/25'], '10.9.10.150')[1]]).toEqual([
      'peer-refuses',
      'tcp 443',
    ])
    const cell = matrixOf(opened(mapped(['10.99.10.128/25']))).cells.find(
      (c) => c.from === 'staff' && c.to === peerKey('far'),
    )
    expect([formatServices(cell?.allPairs ?? EMPTY), formatServices(cell?.somePairs ?? EMPTY)]).toEqual([
      'nothing',
      'tcp 443',
    ])
  })
  it('one device goes out by a provider under the tunnel’s address, and not at all while that is down', () => {
    const provider: Change = (plan) => {
      plan.tunnels.push(
        aTunnel({
          peers: [peerOf('exit', 'provider', ['0.0.0.0/0'], ['10.9.200.1/32'], 'exit.example:51820')],
        }),
      )
      plan.policyRoutes.push({
        id: 'v',
        deviceId: 'gate',
        from: theDevice('box'),
        services: [],
        out: { kind: 'tunnel', id: 'wg' },
        orElse: 'refuse',
        note: '',
      })
      rules(plan).push(rule('v', theDevice('box'), { kind: 'tunnel', id: 'wg' }, ['web'], ''))
    }
    const box = (s: Site) => between(s, 'box', '10.9.20.10', 'internet', OUT)
    expect([
      box(opened(provider)),
      box(opened(provider, [down('exit')])),
      fromDesk(opened(provider)),
    ]).toEqual(['tcp 80 443', 'tunnel-down', 'all'])
  })
})

describe('kinds of places', () => {
  // The slow and obvious way: every pair of addresses at every cut is asked by itself, each rule in turn.
  it('answer as asking each rule in turn does, for any list of rules', () => {
    const plan = busyPlan(7, 60, { switches: 6, portsEach: 6, networks: 5, fixedEach: 3 })
    const index = indexPlan(plan)
    const compiled = policiesOf(index, new Set()).get('gate')
    const speaks = (selector: Selector, side: { via: string; address: Ipv4 }): boolean => {
      if (selector.kind === 'network') return side.via === selector.id
      if (selector.kind === 'internet') return side.via === 'uplink'
      if (selector.kind === 'device')
        return plan.networks.some((network) =>
          network.fixed.some((f) => f.deviceId === selector.id && f.ip === formatIpv4(side.address)),
        )
      if (selector.kind !== 'prefix') return true
      const [base = '', length = ''] = selector.prefix.split('/')
      const size = 2 ** (32 - Number(length))
      return Math.floor(side.address / size) === Math.floor(ip(base) / size)
    }
    const side = fc
      .tuple(fc.nat(5), fc.nat(255), fc.nat(255))
      .map(([net, third, fourth]) =>
        net === 5
          ? { via: 'uplink', address: ip(OUT) }
          : { via: `n${net}`, address: ip(`10.${net}.${third}.${fourth}`) },
      )
    fc.assert(
      fc.property(side, side, fc.constantFrom(22, 53, 80, 443, 445, 7), (from, to, port) => {
        const first: Rule | undefined = plan.policies[0]?.rules.find(
          (rule) =>
            speaks(rule.from, from) &&
            speaks(rule.to, to) &&
            (rule.services.length === 0 ||
              rule.services.some((id) =>
                plan.services
                  .find((s) => s.id === id)
                  ?.entries.some((e) => e.proto === 'tcp' && e.from <= port && port <= e.to),
              )),
        )
        const decided = compiled
          ? decide(compiled, 'forward', from, to).find((d) => includes(d.services, 'tcp', port))
          : undefined
        expect(decided?.rule?.id).toBe(first?.id)
      }),
      { numRuns: 2000 },
    )
  })
  it('of a list of ten thousand rules end in findings, and so does one that denies all', () => {
    const many: Plan = busyPlan(11, 10_000, { switches: 8, portsEach: 6, networks: 8, fixedEach: 2 })
    expect(analyse(indexPlan(many), []).findings.some((f) => f.code === 'P02')).toBe(true)
    const none = site(
      (plan) =>
        void rules(plan).unshift({
          ...rule('no', { kind: 'any' }, { kind: 'any' }, [], ''),
          action: 'drop',
        }),
    )
    const found = analyse(indexPlan(none), [])
      .findings.filter((f) => f.code === 'P02')
      .map((f) => f.place[3])
    expect(found).toEqual(
      site()
        .policies[0]?.rules.filter((r) => r.chain === 'forward')
        .map((r) => r.id),
    )
  }, 60_000)
})
