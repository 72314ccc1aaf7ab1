import { describe, expect, it } from 'vitest'
import { activity, aProject } from '../../tests/projects'
import { chance } from '#core/util'
import { compile, createSearch, doneBy, shareDoneBy, spreadOf, type Project } from '.'
import { durationDraw } from './uncertainty'

const spread = (project: Project, runs = 10_000) => {
  const compiled = compile(project)
  return spreadOf(compiled, createSearch(compiled, 1).best.layout, runs, 7)
}
const mean = (list: readonly number[]) => list.reduce((sum, value) => sum + value, 0) / list.length
const three = (leastMin: number, usualMin: number, worstMin: number) => ({
  leastMin,
  usualMin,
  worstMin,
  source: 'practice' as const,
})

describe('a duration of three points', () => {
  it.each([
    [60, 90, 180],
    [10, 10, 40],
    [5, 60, 60],
    [30, 60, 90],
  ])(
    '%i, %i, %i: its mean is (a + 4 m + b) / 6, its variance (mean - a)(b - mean) / 7',
    (least, usual, worst) => {
      // D. G. Malcolm et al. (1959) for the mean; the variance is that of the beta distribution with those two shapes.
      const [draw, next] = [durationDraw(), chance(3)]
      const drawn = Array.from({ length: 40_000 }, () => draw(three(least, usual, worst), next()))
      const wanted = (least + 4 * usual + worst) / 6
      expect(mean(drawn)).toBeCloseTo(wanted, 0)
      const variance = ((wanted - least) * (worst - wanted)) / 7
      expect(mean(drawn.map((value) => (value - wanted) ** 2)) / variance).toBeCloseTo(1, 1)
      expect(Math.min(...drawn)).toBeGreaterThanOrEqual(least)
      expect(Math.max(...drawn)).toBeLessThanOrEqual(worst)
    },
  )
  it('that is certain is always the same', () => {
    expect(durationDraw()(three(7, 7, 7), 0.3)).toBe(7)
  })
})

describe('runs of a schedule', () => {
  it('of a chain have the sum of the means in their midst', () => {
    // The critical path of the Reliable Construction Co. project in half weeks (Hillier and Lieberman, Introduction to
    // Operations Research; from memory): 44 weeks, so 88.
    const path = [
      [2, 4, 6],
      [4, 7, 16],
      [12, 18, 36],
      [2, 9, 10],
      [8, 8, 20],
      [6, 18, 18],
      [2, 11, 14],
      [10, 11, 18],
    ].map((minutes, i) => activity(`a${i}`, minutes, { after: i > 0 ? [`a${i - 1}`] : [] }))
    const { ends, criticality, withinWindow } = spread(aProject(path))
    expect(mean(ends)).toBeCloseTo(88, 0)
    expect(criticality.every((share) => share === 1)).toBe(true)
    expect(withinWindow).toBeNull()
  })
  it('of two that must both end are later than either alone: the later of two counts', () => {
    const two = ['a', 'b'].map((id) => activity(id, [0, 10, 20], { hands: false }))
    const { ends, criticality } = spread(aProject(two))
    expect(mean(ends)).toBeGreaterThan(10.5)
    expect((criticality[0] ?? 0) + (criticality[1] ?? 0)).toBeCloseTo(1, 5)
    expect(criticality[0]).toBeCloseTo(0.5, 1)
  })
  it('say how often a window is kept', () => {
    const late = activity('late', [10, 20, 60], { limit: 'window' })
    const kept = (to: number) => spread(aProject([late], { window: { from: 0, to } })).withinWindow
    expect(kept(60)).toBe(1)
    expect(kept(25)).toBeGreaterThan(0.3)
    expect(kept(25)).toBeLessThan(0.7)
  })
  it('are read as shares and as times', () => {
    const { ends } = spread(aProject([activity('a', [0, 50, 100])]))
    const told = { ends, criticality: [], withinWindow: null }
    expect(doneBy(told, 0.5)).toBeCloseTo(50, -0.5)
    expect(shareDoneBy(told, doneBy(told, 0.9))).toBeCloseTo(0.9, 2)
    expect(shareDoneBy(told, -1)).toBe(0)
    expect(shareDoneBy(told, 100)).toBe(1)
  })
  it('leave alone what has happened', () => {
    const happened = new Map([['a', { state: 'done' as const, startMin: 0, endMin: 99, personId: 'one' }]])
    const { ends } = spread(aProject([activity('a', [0, 5, 10])], { happened, nowMin: 99 }), 50)
    expect(new Set(ends)).toEqual(new Set([99]))
  })
})
