import { describe, expect, it } from 'vitest'
import { activity, ALWAYS, aProject } from '../../tests/projects'
import { compile, type Activity, type Project } from '.'
import { lowerBound } from './bound'

/** One thing on the bench: 2 min before it, 4 and 6 on it with a wait of 5 between them, 3 after it. */
const thing = (about: string, rest: Partial<Activity> = {}): Activity[] => {
  const step = (name: string, minutes: number, more: Partial<Activity> = {}) =>
    activity(`${about}-${name}`, minutes, { about, ...rest, ...more })
  return [
    step('unbox', 2),
    step('take', 4, { after: [`${about}-unbox`], takes: ['bench'] }),
    step('wait', 5, { after: [`${about}-take`], hands: false }),
    step('free', 6, { after: [`${about}-wait`], frees: ['bench'] }),
    step('label', 3, { after: [`${about}-free`] }),
  ]
}
const MANY = Array.from({ length: 6 }, (_, i) => ({ id: `p${i}`, skills: [], hours: ALWAYS }))
const bound = (things: readonly string[], rest: Partial<Project> = {}) =>
  lowerBound(
    compile(
      aProject(
        things.flatMap((about) => thing(about)),
        { people: MANY, ...rest },
      ),
    ),
  )
const places = (count: number) => ({ capacities: new Map([['bench', count]]) })

describe('what only so many can hold', () => {
  it('one after the other: 15 min each, between the first 2 and the last 3', () => {
    expect(bound(['x'])).toBe(20)
    expect(bound(['x', 'y', 'z'])).toBe(2 + 3 * 15 + 3)
  })
  it('two at once: half of it, with the shortest way to and from each place', () => {
    expect(bound(['x', 'y', 'z'], places(2))).toBe(Math.ceil((2 + 2 + 3 * 15 + 3 + 3) / 2))
    expect(bound(['x'], places(2))).toBe(20)
  })
  it('a pause hides one wait, and no more of it than it is long', () => {
    const hours = (pause: number) =>
      MANY.map((each) => ({
        ...each,
        hours: [
          { from: 0, to: 20 },
          { from: 20 + pause, to: 500 },
        ],
      }))
    // 45 min on the bench from minute 2 on: 18 before the pause, 27 after it, less what the pause hides; then 3.
    expect(bound(['x', 'y', 'z'], { people: hours(100) })).toBe(20 + 100 + 27 - 5 + 3)
    expect(bound(['x', 'y', 'z'], { people: hours(2) })).toBe(20 + 2 + 27 - 2 + 3)
  })
  it('nothing is said where one could begin while nobody is at work', () => {
    const alone = thing('x').map((each) => (each.id === 'x-take' ? { ...each, hands: false } : each))
    const three = [...alone, ...thing('y'), ...thing('z')]
    expect(lowerBound(compile(aProject(three, { people: MANY })))).toBe(20)
  })
  it('what has begun, and what nobody can end, is left out', () => {
    const happened = new Map([
      ['x-take', { state: 'running', startMin: 0, endMin: null, personId: 'p0' } as const],
    ])
    expect(bound(['x', 'y'], { happened })).toBe(20)
    const high = thing('y').map((each) =>
      each.id === 'y-free' ? { ...each, skills: ['height' as const] } : each,
    )
    expect(lowerBound(compile(aProject([...thing('x'), ...high], { people: MANY })))).toBe(20)
  })
})
