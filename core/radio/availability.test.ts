import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fadingPercent, rainLossShare, rainOutagePercent } from './availability'

describe('rain over the year', () => {
  // ITU-R P.530-8, 2.4.1, says which factors its two laws give.
  it('P.530: 0.12, 0.39, 1 and 2.14 north of 30 degrees; 0.07, 0.36, 1 and 1.44 nearer to the equator', () => {
    const shares = (steep: number) => [1, 0.1, 0.01, 0.001].map((percent) => rainLossShare(percent, steep))
    const [north, south] = [shares(0), shares(1)]
    for (const [i, factor] of [0.12, 0.39, 1, 2.14].entries())
      expect(Math.abs((north[i] ?? 0) - factor)).toBeLessThan(0.012)
    for (const [i, factor] of [0.07, 0.36, 1, 1.44].entries())
      expect(Math.abs((south[i] ?? 0) - factor)).toBeLessThan(0.012)
  })

  it('a margin as large as the loss of the rain of 0.01 % is used up for 0.01 % of the year', () => {
    expect(rainOutagePercent(30, 30, 18_000)).toBeCloseTo(0.01, 3)
    expect(rainOutagePercent(11.5, 30, 6000)).toBeGreaterThan(0.05)
  })

  it('a link without a margin is never there; one that no rain reaches is not lost to it', () => {
    expect(rainOutagePercent(0, 10, 6000)).toBe(100)
    expect(rainOutagePercent(30, 0.4, 6000)).toBe(0)
    expect(rainOutagePercent(0.5, 30, 6000)).toBe(1)
  })

  it('more margin, or less rain, is never worse', () => {
    const margin = fc.double({ min: 0.1, max: 60, noNaN: true })
    fc.assert(
      fc.property(margin, margin, margin, fc.integer({ min: 1000, max: 80_000 }), (one, more, rain, mhz) => {
        const [small, large] = [Math.min(one, more), Math.max(one, more)]
        expect(rainOutagePercent(large, rain, mhz)).toBeLessThanOrEqual(rainOutagePercent(small, rain, mhz))
        expect(rainOutagePercent(rain, small, mhz)).toBeLessThanOrEqual(rainOutagePercent(rain, large, mhz))
      }),
    )
  })
})

describe('fading in the worst month', () => {
  it('ten times rarer for 10 dB more; 3.1 powers of the distance; steeper and higher paths fade less', () => {
    const at = (marginDb: number, km: number, heights: readonly [number, number]) =>
      fadingPercent(marginDb, km, 6000, heights)
    expect(at(20, 10, [10, 10]) / at(30, 10, [10, 10])).toBeCloseTo(10, 6)
    expect(at(30, 20, [10, 10]) / at(30, 10, [10, 10])).toBeCloseTo(2 ** 3.1, 6)
    expect(at(30, 10, [10, 60])).toBeLessThan(at(30, 10, [10, 10]))
    expect(at(30, 10, [500, 500])).toBeLessThan(at(30, 10, [10, 10]))
    expect(at(0, 10, [10, 10])).toBe(100)
  })
})
