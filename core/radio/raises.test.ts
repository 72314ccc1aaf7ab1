import { describe, expect, it } from 'vitest'
import { clearances, raisesM, WANTED_SHARE, type Path } from './path-profile'
import { K_USUAL } from './propagation'

/** Nearer to the first end than to the second, and too high for the zone. */
const PATH: Path = {
  lengthM: 3400,
  mhz: 5600,
  antennasM: [10, 10],
  points: [{ atM: 850, groundM: 4, obstacleM: 4, growsM: 0 }],
}
const shareWith = (antennasM: Path['antennasM']): number =>
  clearances({ ...PATH, antennasM }, K_USUAL)[0]?.share ?? 0

describe('how much higher an antenna has to be', () => {
  it('is just enough for either end by itself, and three times as much for the farther one', () => {
    const [first, second] = raisesM(PATH)
    expect(shareWith([10 + first, 10])).toBeGreaterThanOrEqual(WANTED_SHARE)
    expect(shareWith([10, 10 + second])).toBeGreaterThanOrEqual(WANTED_SHARE)
    expect(shareWith([10 + first - 0.1, 10])).toBeLessThan(WANTED_SHARE)
    expect(shareWith([10, 10 + second - 0.1])).toBeLessThan(WANTED_SHARE)
    // A quarter of the way: what is raised at an end counts by three quarters, or by one.
    expect(second / first).toBeCloseTo(3, 0)
  })
})
