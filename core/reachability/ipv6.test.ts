import { aPeer, aTunnel } from '../../tests/fixtures/tunnels'
import { describe, expect, it } from 'vitest'
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
import { createEngine, indexPlan, type FailureScenario, down } from '#core/queries'
import type { Plan, Rule } from '#core/schema'
import { formatServices } from '#core/filter'
import { site, the, type LoosePlan } from '../../tests/plans'
import { matrixOf, openSite, openIpv6Site, walkFlow } from '.'

// IPv6 by hand: hosts take an address of the prefix they hear (RFC 4862); nothing is translated; unique local
// addresses have no way outside (RFC 4193); a rule for IPv4 addresses meets no IPv6 packet (nft(8):
// `ip saddr` depends on IPv4).

type Change = (p: LoosePlan) => void
const prefixed: Change = (plan) => {
  for (const [id, prefix6] of [
    ['management', '2001:db8:5:99::/64'],
    ['staff', '2001:db8:5:10::/64'],
    ['servers', '2001:db8:5:20::/64'],
  ] as const)
    Object.assign(the(plan.networks, id), { prefix6, mode6: 'slaac' })
  the(plan.uplinks, 'line').facts.delegated6 = '2001:db8:5::/48'
}
const ipv6 = (change: Change = () => undefined, scenario: FailureScenario = []) => {
  const opened = openIpv6Site(indexPlan(site((p) => (prefixed(p), change(p)))), scenario)
  if (!opened) throw new Error('no IPv6 here')
  return opened
}
const passes = (
  from: string,
  to: string,
  change: Change = () => undefined,
  scenario: FailureScenario = [],
) => {
  const cell = matrixOf(ipv6(change, scenario)).cells.find((c) => c.from === from && c.to === to)
  return cell ? formatServices(cell.allPairs) : ''
}
const rules = (p: LoosePlan): Rule[] => p.policies[0]?.rules as unknown as Rule[]
const add =
  (...more: Rule[]): Change =>
  (plan) =>
    void rules(plan).push(...more)

describe('the IPv6 side of a plan', () => {
  it('is none where no network has a prefix, or none lets its hosts use it', () => {
    expect(openIpv6Site(indexPlan(site()), [])).toBeNull()
    expect(
      openIpv6Site(indexPlan(site((p) => (prefixed(p), p.networks.forEach((n) => (n.mode6 = 'off'))))), []),
    ).toBeNull()
  })
  it('is said in its new addresses after a renumbering', () => {
    const engine = createEngine()
    const gatewayOf = (prefix6: string) => {
      const plan = site((p) => (prefixed(p), Object.assign(the(p.networks, 'staff'), { prefix6 })))
      const opened = openIpv6Site(engine.index(plan), [])
      const iface = opened?.interfaceOfNetwork.get('staff')
      return iface && opened?.ipv6?.text(iface.address)
    }
    expect(gatewayOf('2001:db8:5:10::/64')).toBe('2001:db8:5:10::1')
    expect(gatewayOf('2001:db8:5:11::/64')).toBe('2001:db8:5:11::1')
  })
  it('notices that a rule names another prefix', () => {
    const engine = createEngine()
    const outside = (text: string) => {
      const named = rule('six', inNetwork('staff'), { kind: 'prefix', prefix: text }, ['https'], '')
      const refused: Change = (p) => void rules(p).unshift({ ...named, action: 'drop' })
      const opened = openIpv6Site(engine.index(site((p) => (prefixed(p), refused(p)))), [])
      const cell = opened && matrixOf(opened).cells.find((c) => c.from === 'staff' && c.to === 'internet')
      return cell && formatServices(cell.somePairs)
    }
    expect(outside('2001:db8:77::/64')).toBe('tcp 443')
    expect(outside('2001:db8:88::/64')).toBe('tcp 443')
  })
  it('rules by interface hold for it too; rules for IPv4 addresses do not', () => {
    expect(passes('staff', 'servers')).toBe('tcp 443, icmp')
    expect(passes('staff', 'internet')).toBe('all')
    const byAddress: Change = (plan) =>
      void Object.assign(the(rules(plan) as { id: string }[], 'r1'), { to: theDevice('box') })
    expect(passes('staff', 'servers', byAddress)).toBe('nothing')
    expect(
      formatServices(
        matrixOf(openSite(indexPlan(site(byAddress)), [])).cells.find(
          (c) => c.from === 'staff' && c.to === 'servers',
        )!.allPairs,
      ),
    ).toBe('tcp 443, icmp')
    expect(
      passes(
        'staff',
        'servers',
        (plan) => (
          byAddress(plan),
          add(rule('p4', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/24' }, ['ssh'], ''))(plan)
        ),
      ),
    ).toBe('nothing')
  })
  it('a refusal by IPv4 address is passed by', () => {
    const refused: Change = (plan) =>
      void rules(plan).unshift({
        ...rule('no', inNetwork('staff'), theDevice('box'), [], ''),
        action: 'drop',
      })
    expect(passes('staff', 'servers', refused)).toBe('tcp 443, icmp')
  })
  it('a typed address is the device’s own: rules that name the device hold for it, and it calls by no other', () => {
    const typed: Change = (p) => void (the(p.networks, 'servers').fixed[0]!.ip6 = '2001:db8:5:20::10')
    const byDevice: Change = (plan) => (
      typed(plan),
      void Object.assign(the(rules(plan) as { id: string }[], 'r1'), { to: theDevice('box') })
    )
    expect(passes('staff', 'servers', byDevice)).toBe('tcp 443, icmp')
    const opened = ipv6(byDevice)
    const box = opened.endpoints.find((e) => e.id === 'box')
    expect([
      box?.how,
      opened.ipv6?.text(box!.ranges[0]!.from),
      box?.ranges[0]?.from === box?.ranges[0]?.to,
    ]).toEqual(['static', '2001:db8:5:20::10', true])
    expect(
      passes(
        'servers',
        'internet',
        (p) => (typed(p), add(rule('out', theDevice('box'), internet, ['ssh'], ''))(p)),
      ),
    ).toBe('tcp 22')
    expect(passes('servers', 'internet', add(rule('out', theDevice('box'), internet, ['ssh'], '')))).toBe(
      'nothing',
    )
  })
  it('an address typed of another prefix has its router out of reach', () => {
    const wrong: Change = (p) => void (the(p.networks, 'servers').fixed[0]!.ip6 = '2001:db8:5:21::10')
    expect(passes('staff', 'servers', wrong)).toBe('nothing')
    expect(passes('servers', 'gateway', wrong)).toBe('nothing')
  })
  it('rules for IPv6 prefixes hold for what lies in them, one address as well as a site', () => {
    expect(
      passes(
        'staff',
        'servers',
        add(rule('p6', inNetwork('staff'), { kind: 'prefix', prefix: '2001:db8:5:20::/64' }, ['ssh'], '')),
      ),
    ).toBe('tcp 22 443, icmp')
    expect(
      passes(
        'servers',
        'staff',
        add(
          rule(
            'p6',
            { kind: 'prefix', prefix: '2001:db8:5::/48' },
            { kind: 'prefix', prefix: '2001:db8::/32' },
            ['ssh'],
            '',
          ),
        ),
      ),
    ).toBe('tcp 22')
    // One address of many that a host may have: it passes for some, not for all.
    const one = add(
      rule('p6', inNetwork('staff'), { kind: 'prefix', prefix: '2001:db8:5:20::50/128' }, ['ssh'], ''),
    )
    const cell = matrixOf(ipv6(one)).cells.find((c) => c.from === 'staff' && c.to === 'servers')
    expect([formatServices(cell!.allPairs), formatServices(cell!.somePairs)]).toEqual([
      'tcp 443, icmp',
      'tcp 22',
    ])
    expect(
      passes(
        'servers',
        'internet',
        add(rule('p6', inNetwork('servers'), { kind: 'prefix', prefix: '::/0' }, ['ssh'], '')),
      ),
    ).toBe('tcp 22')
  })
  it('everybody inside can be called, as far as rules let it: nothing hides behind a translation', () => {
    expect(passes('internet', 'servers')).toBe('nothing')
    expect(
      passes('internet', 'servers', add(rule('in', internet, inNetwork('servers'), ['https'], ''))),
    ).toBe('tcp 443')
    const open: Change = (p) => void (p.policies[0]!.forward = 'accept')
    expect(passes('internet', 'servers', open)).toBe('all')
    expect(
      formatServices(
        matrixOf(openSite(indexPlan(site(open)), [])).cells.find(
          (c) => c.from === 'internet' && c.to === 'servers',
        )!.allPairs,
      ),
    ).toBe('nothing')
    expect(passes('internet', 'gateway', add(rule('in', internet, toGateway, ['ping'], '', 'input')))).toBe(
      'icmp',
    )
  })
  it('unique local addresses have no way outside, nor in', () => {
    const local: Change = (p) => void (the(p.networks, 'staff').prefix6 = 'fd61:6a11::/64')
    expect(passes('staff', 'internet', local)).toBe('nothing')
    expect(passes('staff', 'servers', local)).toBe('tcp 443, icmp')
    expect(passes('internet', 'staff', (p) => (local(p), void (p.policies[0]!.forward = 'accept')))).toBe(
      'nothing',
    )
    const opened = ipv6(local)
    const desk = opened.endpoints.find((e) => e.id === 'desk')
    const walk = walkFlow(opened, {
      from: 'desk',
      fromAddress: desk?.ranges[0]?.from ?? 0,
      to: 'internet',
      toAddress: opened.ipv6?.outside[0] ?? 0,
      proto: 'tcp',
      port: 443,
    })
    expect(walk?.lines.at(-1)).toMatchObject({ kind: 'stopped', code: 'not-global' })
  })
  it('goes by the uplink that delegates its prefix, and waits while that is down', () => {
    expect(passes('staff', 'internet', undefined, [down('line')])).toBe('nothing')
    expect(passes('staff', 'servers', undefined, [down('line')])).toBe('tcp 443, icmp')
    expect(
      passes('staff', 'internet', (p) => void (the(p.uplinks, 'line').facts.delegated6 = '2001:db8:6::/48')),
    ).toBe('nothing')
  })
  it('an access VLAN that is wrong moves a host to that VLAN’s prefix, as it hears it', () => {
    const opened = ipv6(
      (plan) =>
        void (plan.devices.find((d) => d.id === 'sw')!.ports.find((x) => x.id === 'p2')!.mode = {
          mode: 'access',
          vlan: 20,
        }),
    )
    expect(opened.endpoints.find((e) => e.id === 'desk')?.networkId).toBe('servers')
    expect(opened.ipv6?.text(opened.endpoints.find((e) => e.id === 'desk')!.ranges[0]!.from)).toMatch(
      /^2001:db8:5:20::/,
    )
  })
  it('a network without a prefix has nobody there', () => {
    expect(passes('staff', 'servers', (p) => void (the(p.networks, 'servers').prefix6 = null))).toBe(
      'nothing',
    )
  })
  it('is walked in its own addresses', () => {
    const opened = ipv6()
    const at = (id: string) => opened.endpoints.find((e) => e.id === id)!.ranges[0]!.from
    const walk = walkFlow(opened, {
      from: 'desk',
      fromAddress: at('desk'),
      to: 'box',
      toAddress: at('box'),
      proto: 'tcp',
      port: 443,
    })
    expect(walk?.fromText).toBe('2001:db8:5:10::2')
    expect(walk?.lines.filter((l) => l.kind === 'route').map((l) => l.prefix)).toEqual(['2001:db8:5:20::/64'])
    expect(walk?.lines.find((l) => l.kind === 'host')).toMatchObject({
      address: '2001:db8:5:10::2',
      next: '2001:db8:5:10::1',
      prefixLength: 64,
    })
    expect(walk?.lines.at(-1)?.kind).toBe('delivered')
  })
  const far = { kind: 'peer', id: 'far' } as const
  const tunnelled =
    (allowed: string[], theirAllowed: string[], address6: string | null = 'fd61:6a11:20::1/64'): Change =>
    (plan) =>
      void plan.tunnels.push(
        aTunnel({
          name: 'T',
          address6,
          peers: [
            aPeer({
              id: 'far',
              name: 'Far',
              allowed: ['10.20.0.0/22', ...allowed],
              theirAllowed: ['10.9.0.0/16', ...theirAllowed],
              endpoint: 'far.example:51820',
            }),
          ],
        }),
      )
  it('a tunnel carries what both ends allow, by the longest prefix before any uplink', () => {
    const both =
      (change: Change): Change =>
      (plan) => (
        change(plan),
        add(
          rule('t', inNetwork('staff'), far, ['ssh'], ''),
          rule('u', far, inNetwork('servers'), ['https'], ''),
        )(plan)
      )
    const whole = both(tunnelled(['2001:db8:77::/48'], ['2001:db8:5::/48']))
    expect([
      passes('staff', 'peer:far', whole),
      passes('peer:far', 'servers', whole),
      passes('peer:far', 'staff', whole),
    ]).toEqual(['tcp 22', 'tcp 443', 'nothing'])
    // The far end takes nothing of ours, or has nothing: not a word either way.
    expect(passes('staff', 'peer:far', both(tunnelled(['2001:db8:77::/48'], [])))).toBe('nothing')
    expect(passes('staff', 'peer:far', both(tunnelled([], ['2001:db8:5::/48'])))).toBe('')
    // Without an address of its own the tunnel carries IPv4 alone.
    expect(
      matrixOf(ipv6(both(tunnelled(['2001:db8:77::/48'], ['2001:db8:5::/48'], null)))).keys,
    ).not.toContain('peer:far')
    // What our provider does not delegate nobody outside finds through us; what it does, they do, as far as
    // rules and the far end let them.
    const open: Change = (p) => void (p.policies[0]!.forward = 'accept')
    expect(
      passes('internet', 'peer:far', (p) => (tunnelled(['2001:db8:77::/48'], ['::/0'])(p), open(p))),
    ).toBe('nothing')
    expect(
      passes('internet', 'peer:far', (p) => (tunnelled(['2001:db8:5:77::/64'], ['::/0'])(p), open(p))),
    ).toBe('all')
    expect(
      passes(
        'internet',
        'peer:far',
        (p) => (tunnelled(['2001:db8:5:77::/64'], ['2001:db8:5::/48'])(p), open(p)),
      ),
    ).toBe('nothing')
  })
  it('routed ports and routes have addresses of their own family', () => {
    const yard =
      (via: string): Change =>
      (plan) => {
        plan.devices.push(
          device(
            'far',
            'Far gateway',
            'gateway',
            '',
            'Room',
            null,
            ports({
              1: { mode: 'routed', address: '10.9.255.2/30', address6: 'fd61:6a11:ff::2/64' },
              2: access(31),
            }),
          ),
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
          prefix6: '2001:db8:8:31::/64',
        })
        plan.policies.push({ deviceId: 'far', forward: 'accept', input: 'accept', rules: [], pairs: [] })
        plan.links.push(link('far:2', 'lone:1', cat6(2)), link('gate:5', 'far:1', cat6(2)))
        the(plan.devices, 'gate').ports.push({
          ...structuredClone(plan.devices.find((d) => d.id === 'gate')!.ports[1]!),
          id: 'p5',
          name: '5',
          mode: { mode: 'routed', address: '10.9.255.1/30', address6: 'fd61:6a11:ff::1/64' },
        })
        plan.routes.push(
          { id: 'out', deviceId: 'gate', prefix: '2001:db8:8::/48', via, metric: 0 },
          { id: 'back', deviceId: 'far', prefix: '2001:db8:5::/48', via: 'fd61:6a11:ff::1', metric: 0 },
        )
        plan.policies[0]!.forward = 'accept'
      }
    expect([
      passes('staff', 'yard', yard('fd61:6a11:ff::2')),
      passes('yard', 'staff', yard('fd61:6a11:ff::2')),
    ]).toEqual(['all', 'all'])
    expect(passes('staff', 'yard', yard('fd61:6a11:ff::9'))).toBe('nothing')
    expect(passes('staff', 'yard', yard('fd61:6a11:ff::2'), [down('gate.5-far.1')])).toBe('nothing')
  })
  it('has room for as many prefixes as a large site has', () => {
    const many = site((plan: LoosePlan) => {
      prefixed(plan)
      for (let n = 1; n < 400; n++)
        plan.networks.push({
          ...structuredClone(the(plan.networks, 'staff')),
          id: `n${n}`,
          vlan: 100 + n,
          name: `N${n}`,
          subnet: `10.9.${n % 250}.0/24`,
          prefix6: `2001:db8:5:${(0x1000 + n).toString(16)}::/64`,
        })
    }) as Plan
    expect(openIpv6Site(indexPlan(many), [])?.interfaces.length).toBe(402)
  })
})
