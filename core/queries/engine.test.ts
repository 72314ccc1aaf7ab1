import { describe, expect, it } from 'vitest'
import { site } from '../../tests/plans'
import { createEngine, defineStage, type PlanIndex } from '.'
import type { Plan } from '#core/schema'

/** A stage that counts how often it is made. */
function counted<Value>(compute: (index: PlanIndex) => Value, equal?: (a: Value, b: Value) => boolean) {
  const made = { times: 0 }
  const count = (index: PlanIndex) => {
    made.times++
    return compute(index)
  }
  return { made, stage: defineStage('counted', count, equal ? { equal } : {}) }
}
const withIntents = (plan: Plan): Plan => ({ ...plan, intents: [] })
const withNetworks = (plan: Plan): Plan => ({ ...plan, networks: plan.networks.slice(1) })

describe('an answer of a stage', () => {
  it('holds for every plan in which the parts it read are the same', () => {
    const { made, stage } = counted((index) => index.plan.networks.length)
    const engine = createEngine()
    const plan = site()
    expect(engine.index(plan).get(stage)).toBe(3)
    expect(engine.index(withIntents(plan)).get(stage)).toBe(3)
    expect(made.times).toBe(1)
    expect(engine.index(withNetworks(plan)).get(stage)).toBe(2)
    expect(made.times).toBe(2)
  })
  it('hangs on what it asked of other stages, and on what those read', () => {
    const names = counted(({ plan }) => plan.networks.map((n) => n.name))
    const text = counted((index) => index.get(names.stage).join())
    const engine = createEngine()
    const plan = site()
    engine.index(plan).get(text.stage)
    engine.index(withIntents(plan)).get(text.stage)
    expect([names.made.times, text.made.times]).toEqual([1, 1])
    expect(engine.index(withNetworks(plan)).get(text.stage)).toBe('Staff,Servers')
    expect([names.made.times, text.made.times]).toEqual([2, 2])
  })
  it('is kept where it is made anew and says the same: what hangs on it is not made again', () => {
    const names = counted(
      ({ plan }) => plan.networks.map((n) => n.name),
      (a, b) => a.join() === b.join(),
    )
    const text = counted((index) => index.get(names.stage).join())
    const engine = createEngine()
    const plan = site()
    const first = engine.index(plan).get(names.stage)
    engine.index(plan).get(text.stage)
    const moved = { ...plan, networks: plan.networks.map((n) => ({ ...n, leaseS: 60 })) }
    engine.index(moved).get(text.stage)
    expect([names.made.times, text.made.times]).toEqual([2, 1])
    expect(engine.index(moved).get(names.stage)).toBe(first)
  })
  it('is of one key: another key is another answer', () => {
    const lengths = defineStage(
      'length',
      ({ plan }, id: string) => plan.networks.find((n) => n.id === id)?.name,
    )
    const index = createEngine().index(site())
    expect([index.get(lengths, 'staff'), index.get(lengths, 'servers')]).toEqual(['Staff', 'Servers'])
  })
  it('is forgotten where too many keys were asked for since', () => {
    let made = 0
    const stage = defineStage('keyed', (_, key: number) => (made++, key), { keys: 2 })
    const index = createEngine().index(site())
    for (const key of [1, 2, 1, 3, 1, 2]) index.get(stage, key)
    // 1, 2 and 3 once each; 2 again, since 1 had been asked for after it when 3 came.
    expect(made).toBe(4)
  })
  it('that reads a part only after it was used for a plan with another one is a defect, and is told', () => {
    const late = defineStage(
      'late',
      ({ plan }) =>
        () =>
          plan.networks.length,
    )
    const engine = createEngine()
    const plan = site()
    engine.index(plan).get(late)
    const read = engine.index(withNetworks(plan)).get(late)
    expect(read).toThrow('reads networks too late')
  })
  it('of one engine is nothing to another', () => {
    const { made, stage } = counted(({ plan }) => plan.networks.length)
    const plan = site()
    createEngine().index(plan).get(stage)
    createEngine().index(plan).get(stage)
    expect(made.times).toBe(2)
  })
})
