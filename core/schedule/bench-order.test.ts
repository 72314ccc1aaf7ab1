import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { benchOrder, type BenchTask } from './bench-order'

/** Every order there is. */
function* orders<Item>(items: readonly Item[]): Generator<readonly Item[]> {
  if (items.length === 0) yield []
  for (const [i, item] of items.entries())
    for (const rest of orders(items.toSpliced(i, 1))) yield [item, ...rest]
}
const changesIn = (order: readonly BenchTask[]): number =>
  order.filter((task, i) => i > 0 && order[i - 1]?.laptop !== task.laptop).length
const isAllowed = (order: readonly BenchTask[]): boolean =>
  order.every(({ after }, i) => after.every((id) => order.slice(0, i).some((task) => task.id === id)))

const tasks = fc
  .array(fc.tuple(fc.constantFrom('dhcp', '192.0.2.2/24', '198.51.100.2/24'), fc.nat({ max: 12 })), {
    minLength: 1,
    maxLength: 7,
  })
  .map((drawn) =>
    drawn.map(([laptop, after], i): BenchTask => ({
      id: `d${i}`,
      laptop,
      after: after < i ? [`d${after}`] : [],
    })),
  )

describe('the order on the bench', () => {
  it('changes the address of the laptop as seldom as any order can', () => {
    fc.assert(
      fc.property(tasks, (drawn) => {
        const found = benchOrder(drawn)
        const order = found?.ids.map((id) => drawn.find((task) => task.id === id) ?? drawn[0]!) ?? []
        expect(order).toHaveLength(drawn.length)
        expect(isAllowed(order)).toBe(true)
        expect(changesIn(order)).toBe(found?.changes)
        expect(found?.changes).toBe(Math.min(...[...orders(drawn)].filter(isAllowed).map(changesIn)))
      }),
      { numRuns: 60 },
    )
  })
  it('of twenty devices with five addresses is found', () => {
    const twenty = Array.from({ length: 20 }, (_, i) => ({
      id: `d${i}`,
      laptop: `address ${i % 5}`,
      after: i % 5 === 0 && i > 0 ? [`d${i - 3}`] : [],
    }))
    expect(benchOrder(twenty)?.changes).toBeGreaterThanOrEqual(4)
    expect(benchOrder(twenty)?.ids).toHaveLength(20)
  })
  it('of nothing is nothing; in a circle there is none', () => {
    expect(benchOrder([])).toEqual({ ids: [], changes: 0 })
    expect(
      benchOrder([
        { id: 'a', laptop: 'dhcp', after: ['b'] },
        { id: 'b', laptop: 'dhcp', after: ['a'] },
      ]),
    ).toBeNull()
  })
})
