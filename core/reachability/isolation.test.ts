import { describe, expect, it } from 'vitest'
import { indexPlan } from '#core/queries'
import { accessPoint, twoAccessPoints } from '../../tests/twin/cases-hard'
import { isolatedBehind } from '../../tests/twin/switch-on-air'
import { portOf, site, the } from '../../tests/plans'
import { hosts, link, network, trunk, wifi, ssid } from '#server/demo/build'
import { passes, type Change } from '../../tests/fixtures/reachability'
import { isKeptApart, type Isolation } from './isolation'
import { openSite, walkFlow } from '.'

// How far client isolation reaches differs by maker (common practice, without a source); the kernel twin builds
// the same sites.

const between = (model: string, from: string, to: string, isolation = true) => {
  const plan = site((plan) => {
    twoAccessPoints(model)(plan)
    the(plan.ssids, 'air').isolation = isolation
  })
  const flow = { from, fromAddress: 0x0a090a64, to, toAddress: 0x0a090a65, proto: 'tcp' as const, port: 80 }
  const last = walkFlow(openSite(indexPlan(plan), []), flow)?.lines.at(-1)
  return last?.kind === 'stopped' ? last.code : last?.kind
}

describe('client isolation', () => {
  it.each([
    // At one access point, whatever the SSIDs are.
    ['A2X', 'far-air', 'far-yard', 'isolated'],
    ['A2', 'far-air', 'far-yard', 'isolated'],
    // From one access point to another: by what the model does.
    ['A2X', 'near-air', 'far-air', 'delivered'],
    ['A2', 'near-air', 'far-air', 'isolated'],
    ['A2', 'near-air', 'far-yard', 'isolated'],
    // Nothing is promised of a model that is not known.
    ['', 'near-air', 'far-air', 'delivered'],
    ['', 'far-air', 'far-yard', 'isolated'],
    // Hosts on a cable are no stations.
    ['A2', 'near-air', 'desk', 'delivered'],
    ['A2', 'desk', 'near-air', 'delivered'],
  ])('of the model %j between %s and %s: %s', (model, from, to, end) => {
    expect(between(model, from, to)).toBe(end)
  })

  it('is of the SSIDs that have it: a station of another hears and is heard', () => {
    expect(between('A2', 'far-air', 'far-yard', false)).toBe('delivered')
    expect(between('A2', 'far-yard', 'near-air', false)).toBe('delivered')
  })

  it('keeps the members of one group apart, who hear each other without it', () => {
    const guests =
      (isolation: boolean): Change =>
      (plan) => {
        accessPoint(plan, 'near', 'sw:4', [], 'A2')
        plan.networks.push(
          network(
            'guests',
            60,
            'Guests',
            '10.9.60.0/24',
            '10.9.60.1',
            ['10.9.60.10', '10.9.60.99'],
            30,
            [],
            'gate',
          ),
        )
        for (const [id, port] of [
          ['gate', 'p2'],
          ['sw', 'p1'],
          ['sw', 'p4'],
          ['near', 'p1'],
        ] as const)
          portOf(plan, id, port).mode = trunk(99, 10, 20, 60)
        plan.devices.push(hosts('many', 'Many', 'Room', 'guests', 30, 1))
        plan.ssids.push(ssid({ id: 'air', name: 'Air', networkId: 'guests', isolation, apIds: ['near'] }))
        plan.links.push(link('near:radio', 'many:1', wifi('air')))
      }
    expect(passes('guests', 'guests', guests(true))).toBe('nothing')
    expect(passes('guests', 'guests', guests(false))).toBe('all')
  })

  it.each([
    // The extender is one station of its access point, with whatever is behind it.
    ['A2X', 'extender', false, 'at-ap', 'at-joiner', 'isolated'],
    ['A2X', 'extender', false, 'at-ap', 'wired', 'isolated'],
    ['A2X', 'extender', false, 'wired', 'at-ap', 'isolated'],
    ['A2X', 'access-point', false, 'at-ap', 'wired', 'isolated'],
    // Behind it they meet without the access point.
    ['A2X', 'extender', false, 'at-joiner', 'wired', 'delivered'],
    ['A2', 'extender', false, 'at-joiner', 'wired', 'delivered'],
    // Hosts on cables elsewhere are no stations, and a bridge is none.
    ['A2X', 'extender', false, 'desk', 'wired', 'delivered'],
    ['A2X', 'access-point', true, 'at-ap', 'wired', 'delivered'],
  ] as const)('of the model %s by way of an %s (bridge %s) between %s and %s: %s', (...row) => {
    const [model, joiner, fourAddress, from, to, end] = row
    const plan = site(isolatedBehind(model, joiner, fourAddress))
    const flow = { from, fromAddress: 0x0a090a64, to, toAddress: 0x0a090a65, proto: 'tcp' as const, port: 80 }
    const last = walkFlow(openSite(indexPlan(plan), []), flow)?.lines.at(-1)
    expect(last?.kind === 'stopped' ? last.code : last?.kind).toBe(end)
  })

  it('leaves the way out as it is', () => {
    expect(passes('staff', 'internet', twoAccessPoints('A2'))).toBe('all')
  })
})

describe('two that isolation keeps apart', () => {
  const at = (
    apId: string,
    scope: Isolation['scope'] = 'access-point',
    via: string | null = null,
  ): Isolation => ({
    apId,
    scope,
    via,
  })
  it.each<[what: string, first: Isolation[], second: Isolation[], apart: boolean]>([
    ['nobody is isolated', [], [], false],
    ['one is not isolated', [at('a')], [], false],
    ['one access point', [at('a')], [at('a')], true],
    ['two that each see to their own', [at('a')], [at('b')], false],
    ['the first sees to all', [at('a', 'network')], [at('b')], true],
    ['the second sees to all', [at('a')], [at('b', 'network')], true],
    ['behind one extender they meet', [at('a', 'access-point', 'x')], [at('a', 'access-point', 'x')], false],
    ['behind two they do not', [at('a', 'access-point', 'x')], [at('a', 'access-point', 'y')], true],
    ['one behind it, one beside it', [at('a', 'access-point', 'x')], [at('a')], true],
    ['one extender at two', [at('a', 'network', 'x')], [at('b', 'network', 'x')], true],
  ])('%s', (_, first, second, apart) => expect(isKeptApart(first, second)).toBe(apart))
})
