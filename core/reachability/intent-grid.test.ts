import { describe, expect, it } from 'vitest'
import { inNetwork, intent, theDevice, toGateway } from '#server/demo/build'
import { gullhavenClean } from '#server/demo/gullhaven'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { readIntents, writeIntents } from '#core/filter'
import { site, type LoosePlan } from '../../tests/plans'
import { computeMatrix, GATEWAY, matrixZones, INTERNET, intentCells, setIntentForPair } from '.'

const ids = (plan: Plan, from: string, to: string) => {
  const { own, others } = intentCells(plan)(from, to)
  return [own.map((i) => i.id).join(), others.map((i) => i.id).join()]
}
const meant = (plan: Plan, from: string, to: string, services: readonly string[] | null) => ({
  ...plan,
  intents: setIntentForPair(plan, from, to, services, 'New'),
})

describe('the grid of intents', () => {
  it('has the rows and columns of the reach grid', () => {
    for (const plan of [site(), gullhavenClean()])
      expect(matrixZones(plan)).toEqual(computeMatrix(indexPlan(plan), []).keys)
  })
  it('tells an intent for the pair itself from one for more, or for some hosts', () => {
    const plan = site(
      (plan: LoosePlan) =>
        void plan.intents.push(intent('one', theDevice('desk'), inNetwork('servers'), ['ssh'], '')),
    )
    expect(ids(plan, 'staff', 'servers')).toEqual(['i1', 'one'])
    expect(ids(plan, 'staff', INTERNET)).toEqual(['i2', ''])
    expect(['management', 'staff', 'servers'].map((from) => ids(plan, from, GATEWAY))).toEqual([
      ['', 'i3'],
      ['', 'i3'],
      ['', 'i3'],
    ])
    expect(ids(plan, 'servers', 'staff')).toEqual(['', ''])
  })
  it('means for a pair what it is set to, and leaves all else as it was', () => {
    const plan = site()
    const more = meant(plan, 'servers', INTERNET, ['web', 'dns', 'web'])
    expect(more.intents.slice(0, -1)).toEqual(plan.intents)
    expect(more.intents.at(-1)).toMatchObject({
      from: inNetwork('servers'),
      to: { kind: 'internet' },
      services: ['dns', 'web'],
      note: 'New',
      survives: [],
      when: null,
    })
    const wide = meant(more, 'servers', INTERNET, [])
    expect(wide.intents.at(-1)?.services).toEqual([])
    expect(wide.intents.length).toBe(more.intents.length)
    expect(meant(wide, 'servers', INTERNET, null).intents).toEqual(plan.intents)
    // What the wider intent means is not this pair's to take away.
    expect(meant(plan, 'staff', GATEWAY, null).intents).toEqual(plan.intents)
    expect(meant(plan, 'staff', GATEWAY, ['ssh']).intents.at(-1)).toMatchObject({
      from: inNetwork('staff'),
      to: toGateway,
      services: ['ssh'],
    })
    expect(meant(plan, 'staff', 'staff', []).intents).toEqual(plan.intents)
  })
  it('and what else an intent says stays with it', () => {
    const plan = site((p: LoosePlan) => void Object.assign(p.intents[0]!, { survives: ['line'], log: true }))
    expect(meant(plan, 'staff', 'servers', ['ssh']).intents[0]).toEqual({
      ...plan.intents[0],
      services: ['ssh'],
    })
  })
  it('goes to text and back without loss', () => {
    const set = meant(meant(gullhavenClean(), 'staff', 'voice', ['https']), 'guests', 'servers', [])
    const back = readIntents(writeIntents(set.intents))
    expect(back.ok && back.value).toEqual(set.intents)
  })
})
