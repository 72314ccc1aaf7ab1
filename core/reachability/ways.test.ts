import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inNetwork, internet, link, rule, theDevice, toGateway } from '#server/demo/build'
import { formatIpv4, ipv4, parseIpv4, type Ipv4 } from '#core/address'
import { analyse } from '#core/findings'
import { BLANK_PORT, indexPlan, type Plan, type Rule, type Selector, type Weather } from '#core/model'
import { decide, formatServices, includes, policiesOf } from '#core/filter'
import { busyPlan } from '../../tests/large'
import { site, the, type LoosePlan } from '../../tests/plans'
import {
  callFromInside,
  callsFromInside,
  flowBetween,
  matrixOf,
  openSite,
  peerKey,
  walkFlow,
  GATEWAY,
  INTERNET,
  type Party,
  type Site,
} from '.'

// Ways out of the site and back, worked out by hand: the longest prefix, then the policy routes, then the
// lines in order, as ip-rule(8) has them; allowed addresses as in wg(8); destination translation as in RFC
// 3022 section 4.1.

type Change = (p: LoosePlan) => void
const rules = (p: LoosePlan) => p.policies[0]?.rules ?? []
const spare: Change = (plan) => {
  the(plan.devices, 'gate').ports.push({ id: 'p3', name: '3', mode: { mode: 'wan' }, ...BLANK_PORT })
  the(plan.devices, 'internet').ports.push({ id: 'p2', name: '2', mode: { mode: 'plain' }, ...BLANK_PORT })
  plan.links.push(link('internet:2', 'gate:3', { kind: 'line' }) as never)
  plan.uplinks.push({
    ...structuredClone(the(plan.uplinks, 'line')),
    id: 'spare',
    name: 'Spare',
    portId: 'p3',
    priority: 2,
  })
}
const opened = (change: Change, weather: Weather = []) => openSite(indexPlan(site(change)), weather)
const ip = (text: string): Ipv4 => {
  const read = parseIpv4(text)
  return read.ok ? read.value : ipv4(0)
}
const party = (of: Site, id: string): Party => {
  const endpoint = of.endpoints.find((e) => e.id === id)
  if (endpoint) return { kind: 'endpoint', endpoint }
  if (id === 'internet') return { kind: 'internet' }
  if (id === 'gateway') return { kind: 'gateway', deviceId: 'gate' }
  return { kind: 'peer', tunnelId: 'wg', peerId: id }
}
const OUT = '198.51.100.7'
const between = (of: Site, from: string, first: string, to: string, second: string) => {
  const flow = flowBetween(
    of,
    { party: party(of, from), address: ip(first) },
    { party: party(of, to), address: ip(second) },
  )
  return flow.stop ?? formatServices(flow.services)
}
const PROBE = {
  kind: 'icmp' as const,
  targets: ['198.51.100.1'],
  quorum: 1,
  everyS: 5,
  timeoutS: 1,
  misses: 3,
  returns: 3,
}
const fromDesk = (of: Site) => between(of, 'desk', '10.9.10.100', 'internet', OUT)

describe('several lines', () => {
  it('a dark line is given up where it is probed, and swallows everything where it is not', () => {
    const probed: Change = (p) => (spare(p), void (the(p.uplinks, 'line').probe = PROBE))
    expect(fromDesk(opened(probed, ['dark:line']))).toBe('all')
    expect(fromDesk(opened(spare, ['dark:line']))).toBe('line-dark')
    expect(fromDesk(opened(spare, ['line']))).toBe('all')
    expect(fromDesk(opened(spare, ['line', 'spare']))).toBe('no-uplink')
  })
  it('of routes to one prefix the lower metric is used', () => {
    const of = (first: number, second: number) =>
      opened(
        (plan) =>
          void plan.routes.push(
            { id: 'a', deviceId: 'gate', prefix: '10.8.0.0/16', via: '10.9.10.2', metric: first },
            { id: 'b', deviceId: 'gate', prefix: '10.8.0.0/16', via: '10.9.20.2', metric: second },
          ),
      )
    const used = (s: Site) => s.routes.get('gate')?.entries.find((r) => r.kind === 'static')?.via
    expect([used(of(5, 9)), used(of(9, 5))]).toEqual(['10.9.10.2', '10.9.20.2'])
  })
})

describe('policy routes', () => {
  const choose =
    (orElse: 'next' | 'refuse'): Change =>
    (plan) => {
      spare(plan)
      plan.policyRoutes.push({
        id: 'c',
        deviceId: 'gate',
        from: inNetwork('staff') as never,
        services: ['https'],
        out: { kind: 'uplink', id: 'spare' },
        orElse,
        note: '',
      })
    }
  const exitOf = (site: Site, port: number) =>
    walkFlow(site, {
      from: 'desk',
      fromAddress: ip('10.9.10.100'),
      to: INTERNET,
      toAddress: ip(OUT),
      proto: 'tcp',
      port,
    })?.lines.flatMap((line) => {
      if (line.kind === 'translate') return [line.exit.id]
      if (line.kind === 'stopped') return [line.code]
      return []
    })
  it('send the services they name by their line, and the rest in order', () => {
    const site = opened(choose('next'))
    expect([exitOf(site, 443), exitOf(site, 22)]).toEqual([['spare'], ['line']])
    expect(fromDesk(site)).toBe('all')
  })
  it('take the next line, or refuse, while theirs is down', () => {
    expect(exitOf(opened(choose('next'), ['spare']), 443)).toEqual(['line'])
    const refused = opened(choose('refuse'), ['spare'])
    expect(exitOf(refused, 443)).toEqual(['route-refused'])
    expect(fromDesk(refused)).toBe('tcp 0-442 444-65535, udp all, icmp')
  })
  it('leave alone what has a route of its own', () => {
    expect(between(opened(choose('refuse'), ['spare']), 'desk', '10.9.10.100', 'box', '10.9.20.10')).toBe(
      'tcp 443, icmp',
    )
  })
  it('come before a static default route, which has the rest', () => {
    const site = opened(
      (plan) => (
        choose('next')(plan),
        void plan.routes.push({
          id: 'd',
          deviceId: 'gate',
          prefix: '0.0.0.0/0',
          via: '10.9.20.77',
          metric: 0,
        })
      ),
    )
    // The next hop of the static route is nobody: what the policy route took still passes.
    expect(fromDesk(site)).toBe('tcp 443')
  })
})

describe('port forwards', () => {
  const handed: Change = (plan) => {
    plan.forwards.push({
      id: 'web',
      deviceId: 'gate',
      uplinkId: 'line',
      proto: 'tcp',
      from: 8443,
      to: 8445,
      toAddress: '10.9.20.10',
      toPort: 443,
      hairpin: false,
      note: '',
    })
    rules(plan).push(rule('f', internet, theDevice('box'), ['https'], '') as never)
  }
  const fromOutside = (s: Site) => between(s, 'internet', OUT, 'box', '10.9.20.10')
  it('let in what they name and the rules accept, under the port inside', () => {
    expect(fromOutside(opened(handed))).toBe('tcp 443')
    expect(fromOutside(opened((p) => (handed(p), void rules(p).pop())))).toBe('nothing')
    expect(fromOutside(opened(() => undefined))).toBe('not-addressable')
  })
  it('need a line that can be called', () => {
    expect(fromOutside(opened(handed, ['line']))).toBe('no-uplink')
    expect(fromOutside(opened((p) => (handed(p), spare(p)), ['line']))).toBe('shared-address')
    expect(fromOutside(opened((p) => (handed(p), void (the(p.uplinks, 'line').outside = 'shared'))))).toBe(
      'shared-address',
    )
    const behind: Change = (p) => (handed(p), void (the(p.uplinks, 'line').facts.modem = 'routing'))
    expect(fromOutside(opened(behind))).toBe('shared-address')
    expect(
      fromOutside(opened((p) => (behind(p), void (the(p.uplinks, 'line').facts.modemForwards = true)))),
    ).toBe('tcp 443')
  })
  it('are told in the walk', () => {
    const lines =
      walkFlow(opened(handed), {
        from: INTERNET,
        fromAddress: ip(OUT),
        to: 'box',
        toAddress: ip('10.9.20.10'),
        proto: 'tcp',
        port: 443,
      })?.lines ?? []
    expect(lines.map((l) => l.kind).slice(0, 2)).toEqual(['forwarded', 'route'])
    expect(lines.at(-1)?.kind).toBe('delivered')
  })
})

describe('a forward called from inside', () => {
  const handed: Change = (plan) =>
    void plan.forwards.push({
      id: 'web',
      deviceId: 'gate',
      uplinkId: 'line',
      proto: 'tcp',
      from: 8443,
      to: 8444,
      toAddress: '10.9.20.10',
      toPort: 443,
      hairpin: true,
      note: '',
    })
  const called = (change: Change, id = 'desk', weather: Weather = []) => {
    const site = opened((p) => (handed(p), change(p)), weather)
    const endpoint = site.endpoints.find((e) => e.id === id)!
    const call = callFromInside(site, site.index.plan.forwards[0]!, endpoint, endpoint.ranges[0]!.from)
    return call.stop ?? formatServices(call.services)
  }
  it('is handed on where the forward says so, as far as the rules let its caller to the target', () => {
    // Staff may use 443 of the servers; 444, to which 8444 would be handed, they may not.
    expect(called(() => undefined)).toBe('tcp 8443')
    expect(called((p) => void (p.forwards[0]!.hairpin = false))).toBe('not-handed-back')
    expect(called((p) => void rules(p).shift())).toBe('rule')
  })
  it('from the target’s own network goes through the gateway, and needs a rule of its own', () => {
    expect(called(() => undefined, 'box')).toBe('rule')
    expect(
      called(
        (plan) =>
          void rules(plan).push(
            rule('own', inNetwork('servers'), inNetwork('servers'), ['https'], '') as never,
          ),
        'box',
      ),
    ).toBe('tcp 8443')
  })
  it('is told for each network exactly: what all of its hosts get through to, and what only some do', () => {
    const told = (change: Change) =>
      callsFromInside(opened((p) => (handed(p), change(p)))).map((third) => [
        third.networkId,
        formatServices(third.allPairs),
        formatServices(third.somePairs),
        third.stop,
      ])
    expect(told(() => undefined)).toEqual([
      ['management', 'nothing', 'nothing', 'rule'],
      ['staff', 'tcp 8443', 'nothing', null],
      ['servers', 'nothing', 'nothing', 'rule'],
    ])
    // Half of the pool of 10.9.10.100 to .199 may use the other port too.
    const half: Change = (plan) =>
      void rules(plan).push(
        rule(
          'half',
          { kind: 'prefix', prefix: '10.9.10.128/25' },
          inNetwork('servers'),
          ['high'],
          '',
        ) as never,
      )
    expect(
      told(
        (plan) => (
          plan.services.push({
            id: 'high',
            name: 'High',
            entries: [{ proto: 'tcp', from: 444, to: 444 }],
          } as never),
          half(plan)
        ),
      )[1],
    ).toEqual(['staff', 'tcp 8443', 'tcp 8444', null])
  })
  it('needs a line whose address is the gateway’s own, and somebody at the target', () => {
    expect(called(() => undefined, 'desk', ['line'])).toBe('line-down')
    expect(called((p) => void (the(p.uplinks, 'line').outside = 'shared'))).toBe('address-elsewhere')
    expect(called((p) => void (the(p.uplinks, 'line').facts.modem = 'routing'))).toBe('address-elsewhere')
    expect(called((p) => void (p.forwards[0]!.toAddress = '10.9.20.99'))).toBe('no-target')
  })
})

const EMPTY = { tcp: [], udp: [], icmp: false }
describe('a line that a policy route chooses', () => {
  it('swallows what takes it while it is dark and nobody probes, and nothing else', () => {
    const chosen: Change = (plan) => (
      spare(plan),
      void plan.policyRoutes.push({
        id: 'c',
        deviceId: 'gate',
        from: inNetwork('staff') as never,
        services: ['https'],
        out: { kind: 'uplink', id: 'spare' },
        orElse: 'next',
        note: '',
      })
    )
    const https = (site: Site) =>
      includes(
        flowBetween(
          site,
          { party: party(site, 'desk'), address: ip('10.9.10.100') },
          { party: party(site, 'internet'), address: ip(OUT) },
        ).services,
        'tcp',
        443,
      )
    const ssh = (site: Site) =>
      includes(
        flowBetween(
          site,
          { party: party(site, 'desk'), address: ip('10.9.10.100') },
          { party: party(site, 'internet'), address: ip(OUT) },
        ).services,
        'tcp',
        22,
      )
    expect([
      https(opened(chosen)),
      https(opened(chosen, ['dark:spare'])),
      ssh(opened(chosen, ['dark:spare'])),
    ]).toEqual([true, false, true])
  })
})

describe('lines that share', () => {
  const three: Change = (plan) => {
    spare(plan)
    the(plan.devices, 'gate').ports.push({ id: 'p4', name: '4', mode: { mode: 'wan' }, ...BLANK_PORT })
    the(plan.devices, 'internet').ports.push({ id: 'p3', name: '3', mode: { mode: 'plain' }, ...BLANK_PORT })
    plan.links.push(link('internet:3', 'gate:4', { kind: 'line' }) as never)
    plan.uplinks.push({
      ...structuredClone(the(plan.uplinks, 'spare')),
      id: 'third',
      name: 'Third',
      portId: 'p4',
    })
  }
  it('two that wait share when it is their turn: what one of them loses in the dark is promised to nobody then', () => {
    expect([
      fromDesk(opened(three)),
      fromDesk(opened(three, ['dark:third'])),
      fromDesk(opened(three, ['line', 'spare'])),
    ]).toEqual(['all', 'all', 'all'])
    expect(fromDesk(opened(three, ['line', 'dark:third']))).toBe('line-dark')
    expect(
      fromDesk(
        opened((p) => (three(p), void (the(p.uplinks, 'third').priority = 3)), ['line', 'dark:third']),
      ),
    ).toBe('all')
  })
  const shared: Change = (p) => (spare(p), p.uplinks.forEach((u) => (u.priority = 1)))
  it('hold each other up, and promise nothing while one of them is dark and nobody probes', () => {
    expect(fromDesk(opened(shared))).toBe('all')
    expect([
      fromDesk(opened(shared, ['line'])),
      fromDesk(opened(shared, ['spare'])),
      fromDesk(opened(shared, ['line', 'spare'])),
    ]).toEqual(['all', 'all', 'no-uplink'])
    expect([fromDesk(opened(shared, ['dark:spare'])), fromDesk(opened(shared, ['dark:line']))]).toEqual([
      'line-dark',
      'line-dark',
    ])
    expect(
      fromDesk(opened((p) => (shared(p), p.uplinks.forEach((u) => (u.probe = PROBE))), ['dark:spare'])),
    ).toBe('all')
    // A line that only waits takes nobody before its time.
    expect(fromDesk(opened(spare, ['dark:spare']))).toBe('all')
  })
})

describe('tunnels', () => {
  const peer = (
    id: string,
    kind: 'site' | 'person' | 'provider',
    allowed: string[],
    theirAllowed: string[],
    endpoint: string | null = null,
  ) => ({
    id,
    name: id,
    kind,
    publicKey: null,
    next: null,
    allowed,
    theirAllowed,
    endpoint,
    keepaliveS: null,
  })
  const roads: Change = (plan) => {
    plan.tunnels.push({
      id: 'wg',
      name: 'Tunnel',
      deviceId: 'gate',
      publicName: null,
      address: '10.9.200.1/24',
      listenPort: 51820,
      mtu: 1420,
      publicKey: null,
      mapped: [],
      peers: [
        peer('far', 'site', ['10.20.0.0/22'], ['10.9.10.0/24', '10.9.200.0/24'], 'far.example:51820'),
        peer('keeper', 'person', ['10.9.200.9/32'], ['10.9.0.0/16']),
      ],
    } as never)
    rules(plan).push(
      rule('a', { kind: 'peer', id: 'far' }, inNetwork('staff'), ['ssh'], '') as never,
      rule('b', inNetwork('staff'), { kind: 'tunnel', id: 'wg' }, ['https'], '') as never,
      rule('c', { kind: 'tunnel', id: 'wg' }, toGateway, ['ping'], '', 'input') as never,
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
          peer('part', 'site', ['10.20.1.0/24'], ['10.9.10.0/24']) as never,
          peer('twin', 'person', ['10.9.200.9/32'], ['10.9.10.0/24']) as never,
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
  it('we dial over any line; who dials us needs the first that can be called', () => {
    const two: Change = (p) => (roads(p), spare(p), void (the(p.uplinks, 'spare').outside = 'shared'))
    const up = (s: Site) => s.tunnels[0]?.peers.map((x) => x.up)
    expect([
      up(opened(two)),
      up(opened(two, ['line'])),
      up(opened(two, ['far'])),
      up(opened(two, ['wg'])),
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
  it('one device goes out by a provider, hidden behind the tunnel’s address, and not at all while that is down', () => {
    const provider: Change = (plan) => {
      plan.tunnels.push({
        id: 'wg',
        name: 'Tunnel',
        deviceId: 'gate',
        publicName: null,
        address: '10.9.200.1/24',
        listenPort: 51820,
        mtu: 1420,
        publicKey: null,
        mapped: [],
        peers: [peer('exit', 'provider', ['0.0.0.0/0'], ['10.9.200.1/32'], 'exit.example:51820')],
      } as never)
      plan.policyRoutes.push({
        id: 'v',
        deviceId: 'gate',
        from: theDevice('box') as never,
        services: [],
        out: { kind: 'tunnel', id: 'wg' },
        orElse: 'refuse',
        note: '',
      })
      rules(plan).push(rule('v', theDevice('box'), { kind: 'tunnel', id: 'wg' }, ['web'], '') as never)
    }
    const box = (s: Site) => between(s, 'box', '10.9.20.10', 'internet', OUT)
    expect([box(opened(provider)), box(opened(provider, ['exit'])), fromDesk(opened(provider))]).toEqual([
      'tcp 80 443',
      'route-refused',
      'all',
    ])
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
        } as never),
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
