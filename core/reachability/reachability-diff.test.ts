import { describe, expect, it } from 'vitest'
import { inNetwork, rule } from '#server/demo/build'
import { indexPlan, type FailureScenario, down } from '#core/queries'
import { formatServices } from '#core/filter'
import { site, the, type LoosePlan } from '../../tests/plans'
import { computeMatrix, flowsChanged } from '.'

const told = (change: (p: LoosePlan) => void, scenario: FailureScenario = []) =>
  flowsChanged(computeMatrix(indexPlan(site()), []), computeMatrix(indexPlan(site(change)), scenario)).map(
    (f) => `${f.from} ${f.to}: +${formatServices(f.opened)} -${formatServices(f.closed)}`,
  )

describe('what a change means', () => {
  it('is nothing where the text differs and the flows do not', () => {
    expect(told((p) => void (p.site.name = 'Other'))).toEqual([])
    // A rule that an earlier one makes idle.
    expect(
      told(
        (plan) =>
          void plan.policies[0]?.rules.push(
            rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], ''),
          ),
      ),
    ).toEqual([])
  })
  it('is what opened and what closed, by services', () => {
    expect(
      told((p) => void Object.assign(the(p.policies[0]?.rules ?? [], 'r1'), { services: ['ssh', 'ping'] })),
    ).toEqual(['staff servers: +tcp 22 -tcp 443'])
    expect(
      told(
        (plan) =>
          void plan.policies[0]?.rules.push(rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], '')),
      ),
    ).toEqual(['servers staff: +tcp 22 -nothing'])
  })
  it('is told of a failure too', () => {
    expect(
      told(() => undefined, [down('line')]).every((l) => l.includes('internet') && l.includes('+nothing')),
    ).toBe(true)
  })
})
