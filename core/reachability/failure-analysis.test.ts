import { describe, expect, it } from 'vitest'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import { formatServices } from '#core/filter'
import { BLANK_PORT } from '#core/edit'
import { indexPlan, down } from '#core/queries'
import type { Plan } from '#core/schema'
import { site, the } from '../../tests/plans'
import { jointOnlyImpact, matrixOf, impactOf, openSite, pairsOf, singleFailures } from '.'

const lost = (plan: Plan, ...failed: string[]) =>
  impactOf(indexPlan(plan), failed.map(down)).map((l) => `${l.intentId}: ${formatServices(l.services)}`)

describe('what one failure breaks', () => {
  it('by hand, on the small site', () => {
    expect(lost(site(), 'line')).toEqual(['i2: all'])
    expect(lost(site(), 'gate')).toEqual(['i1: tcp 443, icmp', 'i2: all', 'i3: tcp 53, udp 53, icmp'])
    expect(lost(site(), 'sw.3-box.1')).toEqual(['i1: tcp 443, icmp', 'i3: tcp 53, udp 53, icmp'])
    expect(lost(site())).toEqual([])
  })
  it('is not blamed for what fails anyway', () => {
    const plan = site((p) => void p.policies[0]?.rules.shift())
    expect(lost(plan, 'sw.3-box.1')).toEqual(['i3: tcp 53, udp 53, icmp'])
  })
  it('a second uplink takes the first one’s place', () => {
    const plan = site((plan) => {
      the(plan.devices, 'gate').ports.push({ id: 'p3', name: '3', mode: { mode: 'wan' }, ...BLANK_PORT })
      the(plan.devices, 'internet').ports.push({
        id: 'p2',
        name: '2',
        mode: { mode: 'plain' },
        ...BLANK_PORT,
      })
      plan.links.push({
        id: 'two',
        a: { deviceId: 'internet', portId: 'p2' },
        b: { deviceId: 'gate', portId: 'p3' },
        medium: { kind: 'line' },
        lag: null,
      })
      plan.uplinks.push({ ...the(plan.uplinks, 'line'), id: 'spare', portId: 'p3', priority: 2 })
    })
    expect(lost(plan, 'line')).toEqual([])
    expect(lost(plan, 'line', 'spare')).toEqual(['i2: all'])
    const single = (id: string) => impactOf(indexPlan(plan), [down(id)])
    expect(
      jointOnlyImpact(
        impactOf(indexPlan(plan), [down('line'), down('spare')]),
        single('line'),
        single('spare'),
      ).map((l) => l.intentId),
    ).toEqual(['i2'])
    // What one of the two breaks by itself is not the pair's doing.
    expect(
      jointOnlyImpact(
        impactOf(indexPlan(plan), [down('line'), down('sw.3-box.1')]),
        single('line'),
        single('sw.3-box.1'),
      ),
    ).toEqual([])
  })
  it('agrees with the whole grid under each single failure of the demo', () => {
    const plan = gullhavenClean()
    const well = new Set(
      matrixOf(openSite(indexPlan(plan), []))
        .verdicts.filter((v) => formatServices(v.missing) !== 'nothing')
        .map((v) => v.intentId),
    )
    for (const failed of singleFailures(plan)) {
      const whole = matrixOf(openSite(indexPlan(plan), [failed]))
        .verdicts.filter((v) => formatServices(v.missing) !== 'nothing' && !well.has(v.intentId))
        .map((v) => v.intentId)
      expect([failed, impactOf(indexPlan(plan), [failed]).map((l) => l.intentId)]).toEqual([failed, whole])
    }
  })
  it('pairs each thing with each other once', () => {
    expect(pairsOf(['a', 'b', 'c'])).toEqual([
      ['a', 'b'],
      ['a', 'c'],
      ['b', 'c'],
    ])
    expect(pairsOf(['a'])).toEqual([])
  })
  it('tries uplinks, devices that others lean on, and the cables between them', () => {
    const all = singleFailures(gullhavenPlan())
    expect(all.slice(0, 2)).toEqual([down('fibre'), down('5g')])
    expect(all).toContainEqual(down('bridge-a.radio-bridge-b.radio'))
    expect(JSON.stringify(all)).not.toContain('desks')
  })
})
