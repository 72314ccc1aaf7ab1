import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { site } from '../../tests/plans'
import { ipv4, parseIpv4 } from '#core/address'
import { indexPlan, type PlanIndex } from '#core/queries'
import type { Policy, Rule } from '#core/schema'
import {
  accepted,
  decide,
  EVERYTHING,
  formatServices,
  includes,
  intersect,
  isNothing,
  minus,
  namedParts,
  policiesOf,
  NOTHING,
  sameSet,
  sample,
  servicesOf,
  union,
  type CompiledPolicy,
  type ServiceSet,
  type PacketEnd,
} from '.'

const PORTS = 40
const intervals = fc.array(
  fc
    .tuple(fc.integer({ min: 0, max: PORTS }), fc.integer({ min: 0, max: 8 }))
    .map(([from, more]) => ({ from, to: Math.min(65535, from + more) })),
  { maxLength: 4 },
)
const set: fc.Arbitrary<ServiceSet> = fc.tuple(intervals, intervals, fc.boolean()).map(([tcp, udp, icmp]) =>
  servicesOf(
    ['x'],
    new Map([
      [
        'x',
        {
          id: 'x',
          name: 'x',
          entries: [
            ...tcp.map((r) => ({ proto: 'tcp' as const, ...r })),
            ...udp.map((r) => ({ proto: 'udp' as const, ...r })),
            ...(icmp ? [{ proto: 'icmp' as const, from: 0, to: 0 }] : []),
          ],
        },
      ],
    ]),
  ),
)

/** The same set the slow and obvious way: every member asked for. */
function members(services: ServiceSet): Set<string> {
  const out = new Set<string>()
  for (let port = 0; port <= PORTS + 10; port++)
    for (const proto of ['tcp', 'udp'] as const)
      if (includes(services, proto, port)) out.add(`${proto} ${port}`)
  if (includes(services, 'icmp', 0)) out.add('icmp')
  return out
}

describe('service sets against sets of members', () => {
  it('union, intersection, difference', () => {
    fc.assert(
      fc.property(set, set, (first, second) => {
        const [x, y] = [members(first), members(second)]
        expect(members(union(first, second))).toEqual(new Set([...x, ...y]))
        expect(members(intersect(first, second))).toEqual(new Set([...x].filter((m) => y.has(m))))
        expect(members(minus(first, second))).toEqual(new Set([...x].filter((m) => !y.has(m))))
        expect(sameSet(first, second)).toBe(x.size === y.size && [...x].every((m) => y.has(m)))
        expect(isNothing(first)).toBe(x.size === 0)
      }),
      { numRuns: 500 },
    )
  })

  it('everything is everything', () => {
    fc.assert(
      fc.property(set, (services) => {
        expect(union(services, minus(EVERYTHING, services))).toEqual(EVERYTHING)
        expect(intersect(services, minus(EVERYTHING, services))).toEqual(NOTHING)
        const one = sample(services)
        expect(one === null ? isNothing(services) : includes(services, one.proto, one.port)).toBe(true)
      }),
    )
  })

  it('are written as least intervals', () => {
    const services = new Map([
      [
        'a',
        {
          id: 'a',
          name: 'A',
          entries: [
            { proto: 'tcp' as const, from: 80, to: 90 },
            { proto: 'tcp' as const, from: 91, to: 95 },
            { proto: 'udp' as const, from: 53, to: 53 },
            { proto: 'icmp' as const, from: 0, to: 0 },
          ],
        },
      ],
    ])
    expect(formatServices(servicesOf(['a'], services))).toBe('tcp 80-95, udp 53, icmp')
    expect(formatServices(EVERYTHING)).toBe('all')
    expect(formatServices(NOTHING)).toBe('nothing')
    expect(formatServices(servicesOf(['gone'], services))).toBe('nothing')
  })

  it('take the plan’s names and leave the rest', () => {
    const { services } = site()
    const both = servicesOf(['https', 'dns'], indexPlan(site()).services)
    const more = union(both, { tcp: [[9, 9]], udp: [], icmp: false })
    expect(namedParts(more, services)).toEqual({
      names: ['DNS', 'HTTPS'],
      rest: { tcp: [[9, 9]], udp: [], icmp: false },
    })
  })
})

describe('ordered rules', () => {
  const at = (text: string) => {
    const parsed = parseIpv4(text)
    return parsed.ok ? parsed.value : ipv4(0)
  }
  const plan = site()
  const index = indexPlan(plan)
  const rule = (
    id: string,
    action: Rule['action'],
    services: readonly string[],
    from: Rule['from'] = { kind: 'any' },
  ): Rule => ({
    id,
    chain: 'forward',
    action,
    from,
    to: { kind: 'any' },
    services,
    note: '',
    log: false,
    when: null,
  })
  const policy = (rules: readonly Rule[], forward: Policy['forward'] = 'drop'): Policy => ({
    deviceId: 'gate',
    forward,
    input: 'drop',
    rules,
    pairs: [],
  })
  const staff = { via: 'staff', address: at('10.9.10.100') }
  const servers = { via: 'servers', address: at('10.9.20.10') }
  /** The filter of a plan that has this list of rules instead of its own. */
  const filterOf = (of: PlanIndex, list: Policy): CompiledPolicy =>
    policiesOf(of.of({ ...of.plan, policies: [list] }), new Set()).get(list.deviceId) as CompiledPolicy
  const ask = (rules: readonly Rule[], forward: Policy['forward'] = 'drop') =>
    decide(filterOf(index, policy(rules, forward)), 'forward', staff, servers)

  it('the first that matches decides, the default decides the rest', () => {
    const decisions = ask([
      rule('a', 'drop', ['https']),
      rule('b', 'accept', ['https', 'ssh']),
      rule('c', 'reject', []),
    ])
    expect(
      decisions.map((d) => `${d.rule?.id ?? 'default'} ${d.action} ${formatServices(d.services)}`),
    ).toEqual(['a drop tcp 443', 'b accept tcp 22', 'c reject tcp 0-21 23-442 444-65535, udp all, icmp'])
    expect(ask([], 'accept').map((d) => `${d.rule?.id ?? 'default'} ${d.action}`)).toEqual(['default accept'])
  })

  it('select by network, device, prefix, inside, internet', () => {
    const passes = (from: Rule['from']) => !isNothing(accepted(ask([rule('a', 'accept', ['ssh'], from)])))
    expect(passes({ kind: 'network', id: 'staff' })).toBe(true)
    expect(passes({ kind: 'network', id: 'servers' })).toBe(false)
    expect(passes({ kind: 'prefix', prefix: '10.9.10.64/26' })).toBe(true)
    expect(passes({ kind: 'prefix', prefix: '10.9.10.128/26' })).toBe(false)
    expect(passes({ kind: 'inside' })).toBe(true)
    expect(passes({ kind: 'internet' })).toBe(false)
    expect(passes({ kind: 'device', id: 'box' })).toBe(false)
    expect(passes({ kind: 'device', id: 'nobody' })).toBe(false)
  })

  it('select by group: whatever one of its members speaks of', () => {
    const grouped = indexPlan(
      site(
        (plan) =>
          void plan.groups.push(
            {
              id: 'g',
              name: 'G',
              members: [
                { kind: 'network', id: 'staff' },
                { kind: 'prefix', prefix: '10.9.20.8/29' },
              ],
            },
            { id: 'none', name: 'None', members: [] },
          ),
      ),
    )
    const passes = (id: string, side: PacketEnd) =>
      !isNothing(
        accepted(
          decide(
            filterOf(grouped, policy([rule('a', 'accept', ['ssh'], { kind: 'group', id })])),
            'forward',
            side,
            servers,
          ),
        ),
      )
    expect([
      passes('g', staff),
      passes('g', servers),
      passes('g', { via: 'servers', address: at('10.9.20.16') }),
    ]).toEqual([true, true, false])
    expect([passes('none', staff), passes('gone', staff)]).toEqual([false, false])
  })
  it('have the defaults of pairs after them, the first that fits, and the default of all after those', () => {
    const paired: Policy = {
      ...policy([rule('a', 'drop', ['ssh'])]),
      pairs: [
        { id: 'x', from: { kind: 'network', id: 'servers' }, to: { kind: 'any' }, action: 'drop' },
        { id: 'y', from: { kind: 'inside' }, to: { kind: 'any' }, action: 'accept' },
      ],
    }
    const from = (side: PacketEnd) =>
      decide(filterOf(index, paired), 'forward', side, staff).map(
        (d) => `${d.rule?.id ?? 'default'} ${d.action}`,
      )
    expect(from(staff)).toEqual(['a drop', 'pair:y accept'])
    expect(from(servers)).toEqual(['a drop', 'pair:x drop'])
    expect(from({ via: 'uplink', address: at('198.51.100.7') })).toEqual(['a drop', 'default drop'])
  })

  it('agree with asking each rule in turn', () => {
    const ids = ['https', 'ssh', 'dns', 'ping', 'web', 'tide']
    const anyRule = fc.record({
      action: fc.constantFrom<Rule['action']>('accept', 'drop', 'reject'),
      services: fc.subarray(ids),
      hits: fc.boolean(),
    })
    fc.assert(
      fc.property(
        fc.array(anyRule, { maxLength: 8 }),
        fc.constantFrom('tcp' as const, 'udp' as const, 'icmp' as const),
        fc.constantFrom(22, 53, 80, 443, 5020, 7),
        (drafts, proto, port) => {
          const rules = drafts.map((draft, i) =>
            rule(`r${i}`, draft.action, draft.services, {
              kind: 'network',
              id: draft.hits ? 'staff' : 'servers',
            }),
          )
          const first = rules.find(
            (rule) =>
              rule.from.kind === 'network' &&
              rule.from.id === 'staff' &&
              includes(servicesOf(rule.services, index.services), proto, port),
          )
          expect(includes(accepted(ask(rules)), proto, port)).toBe(first?.action === 'accept')
        },
      ),
      { numRuns: 500 },
    )
  })
})
