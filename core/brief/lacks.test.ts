import { describe, expect, it } from 'vitest'
import { blankPlan } from '#core/edit'
import { site, type LoosePlan } from '../../tests/plans'
import { lacksOf } from '.'

describe('what a plan lacks before it can be judged', () => {
  it('of a site just begun, is everything; of a whole one, nothing', () => {
    expect(lacksOf(blankPlan('Beginning', '10.77.0.0/20'))).toEqual([
      'gateway',
      'networks',
      'hosts',
      'intents',
    ])
    expect(lacksOf(site())).toEqual([])
  })

  it.each<[string, (plan: LoosePlan) => void, string]>([
    [
      'no gateway',
      (plan) => void (plan.devices = plan.devices.filter((d) => d.kind !== 'gateway')),
      'gateway',
    ],
    ['no network', (plan) => void (plan.networks = []), 'networks'],
    ['hosts in no network', (plan) => plan.devices.forEach((d) => (d.homeNetworkId = null)), 'hosts'],
    ['nothing meant', (plan) => void (plan.intents = []), 'intents'],
  ])('with %s', (_, change, lack) => {
    expect(lacksOf(site(change))).toEqual([lack])
  })
})
