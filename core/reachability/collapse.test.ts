import { describe, expect, it } from 'vitest'
import { inNetwork, intent, network, rule } from '#server/demo/build'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { isNothing, NOTHING, sameSet } from '#core/filter'
import { site, the, type LoosePlan } from '../../tests/plans'
import { asSecondFamily, groupCell, groupEqualRows, cellsOf, computeMatrix, keptGroups, restrictTo } from '.'

const grid = (plan: Plan) => computeMatrix(indexPlan(plan), [])
const told = (plan: Plan) => groupEqualRows(grid(plan), true).map((b) => b.keys.join('+'))
const three = (change: (p: LoosePlan) => void = () => undefined) =>
  site((plan) => {
    for (const vlan of [31, 32, 33])
      plan.networks.push(
        network(
          `lab${vlan}`,
          vlan,
          `Lab ${vlan}`,
          `10.9.${vlan}.0/24`,
          `10.9.${vlan}.1`,
          null,
          4,
          [],
          'gate',
        ),
      )
    change(plan)
  })

describe('bands of a grid', () => {
  it('join the keys that may be swapped, and no others', () => {
    expect(told(three())).toContain('lab31+lab32+lab33')
    // Nobody is in the labs. One host in one of them, and it is met differently.
    const peopled = three((plan) => {
      plan.devices.push({
        ...structuredClone(the(plan.devices, 'desk')),
        id: 'kit',
        name: 'Kit',
        homeNetworkId: 'lab32',
      })
      plan.intents.push(intent('i9', inNetwork('staff'), inNetwork('lab32'), ['ssh'], 'Staff log in'))
    })
    expect(told(peopled)).toContain('lab31+lab33')
    expect(told(peopled)).toContain('lab32')
  })
  it('hold what every member says, cell by cell', () => {
    const whole = grid(three())
    const [at, bands] = [cellsOf(whole), groupEqualRows(whole, true)]
    for (const from of bands)
      for (const to of bands)
        for (const key of from.keys)
          for (const second of to.keys) {
            if (from === to && key === second && from.keys.length > 1) continue
            const [shown, real] = [groupCell(at, from, to), at(key, second)]
            for (const part of ['intended', 'allPairs', 'somePairs', 'missing', 'unexpected'] as const)
              expect(
                sameSet(shown?.[part] ?? NOTHING, real?.[part] ?? NOTHING),
                `${key} ${second} ${part}`,
              ).toBe(true)
          }
  })
  it('are one key each where nothing is to be joined, or where something else tells them apart', () => {
    const whole = grid(three())
    expect(groupEqualRows(whole, false)).toHaveLength(whole.keys.length)
    expect(groupEqualRows(whole, true, (c) => c.from)).toHaveLength(whole.keys.length)
  })
  it('are kept where something sought is found in their row or column', () => {
    const whole = grid(
      site(
        (plan) =>
          void plan.policies[0]?.rules.push(rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], '')),
      ),
    )
    const kept = keptGroups(groupEqualRows(whole, false), cellsOf(whole), (c) => !isNothing(c.unexpected))
    expect(kept.rows.map((b) => b.keys[0])).toEqual(['servers'])
    expect(kept.columns.map((b) => b.keys[0])).toEqual(['staff'])
  })
  it('of the second family miss nothing: they are asked for what they carry', () => {
    const cell = cellsOf(grid(site((p) => void p.policies[0]?.rules.shift())))('staff', 'servers')
    expect(isNothing(cell!.missing)).toBe(false)
    expect([isNothing(asSecondFamily(cell!).missing), isNothing(asSecondFamily(cell!).intended)]).toEqual([
      true,
      true,
    ])
  })
  it('can be asked of one service alone', () => {
    const cell = cellsOf(grid(site()))('staff', 'servers')!
    const only = restrictTo(cell, { tcp: [[443, 443]], udp: [], icmp: false })
    expect(only.allPairs).toEqual({ tcp: [[443, 443]], udp: [], icmp: false })
    expect(isNothing(restrictTo(cell, { tcp: [[22, 22]], udp: [], icmp: false }).allPairs)).toBe(true)
  })
})
