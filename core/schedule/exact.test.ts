import fc from 'fast-check'
import loadHighs from 'highs'
import { describe, expect, it } from 'vitest'
import { activity, ALWAYS, aProject, randomProject } from '../../tests/projects'
import { compile, createSearch, type Project } from '.'
import { solveExactly } from './exact'

const best = (project: Project) => createSearch(compile(project), 1).best

/**
 * All ways there are, minute by minute: at each minute anything that may begin does, by anybody, or waits.
 * Slow and obvious; without hours, ways and things that are held.
 */
function bruteForce({ activities, people }: Project): number {
  const known = new Map<string, number>()
  const able = (i: number): (number | null)[] => {
    const { hands, skills } = activities[i] ?? { hands: false, skills: [] }
    if (!hands) return [null]
    return people.flatMap((person, p) => (skills.every((skill) => person.skills.includes(skill)) ? [p] : []))
  }
  /** Minutes left of each that runs, by activity; undefined before, 0 after. */
  function from(left: readonly (number | undefined)[], who: readonly (number | null)[]): number {
    if (left.every((minutes) => minutes === 0)) return 0
    const key = JSON.stringify([left.map((minutes) => minutes ?? -1), who])
    const seen = known.get(key)
    if (seen !== undefined) return seen
    const isDone = (id: string) => left[activities.findIndex((each) => each.id === id)] === 0
    const busy = new Set(who.filter((_, i) => (left[i] ?? 0) > 0))
    let least = Infinity
    if (left.some((minutes) => (minutes ?? 0) > 0)) {
      const next = left.map((minutes) => (minutes === undefined ? undefined : Math.max(0, minutes - 1)))
      least =
        1 +
        from(
          next,
          who.map((person, i) => ((next[i] ?? 0) > 0 ? person : null)),
        )
    }
    activities.forEach(({ after, duration }, i) => {
      if (left[i] !== undefined || !after.every(isDone)) return
      for (const person of able(i)) {
        if (person !== null && busy.has(person)) continue
        least = Math.min(least, from(left.with(i, duration.usualMin), who.with(i, person)))
      }
    })
    known.set(key, least)
    return least
  }
  return from(
    activities.map(() => undefined),
    activities.map(() => null),
  )
}

/** The same as a time-indexed integer programme: one 0/1 variable for each activity, person and start. */
async function byIntegerProgramme(
  { activities, people, travelMin }: Project,
  horizon: number,
): Promise<number> {
  const highs = await loadHighs()
  const name = (i: number, person: number, time: number) => `x_${i}_${person + 1}_${time}`
  const able = activities.map(({ hands, skills }) =>
    hands
      ? people.flatMap((each, p) => (skills.every((skill) => each.skills.includes(skill)) ? [p] : []))
      : [-1],
  )
  const minutes = activities.map(({ duration }) => duration.usualMin)
  const starts = (i: number) => Array.from({ length: horizon - (minutes[i] ?? 0) + 1 }, (_, time) => time)
  const all = activities.flatMap((_, i) =>
    (able[i] ?? []).flatMap((person) => starts(i).map((time) => ({ i, person, time }))),
  )
  const weighted = (i: number, sign: string) =>
    all
      .filter((each) => each.i === i)
      .map(({ person, time }) => `${sign} ${time} ${name(i, person, time)}`)
      .join(' ')
  const rows = activities.flatMap(({ after }, i) => [
    `${all
      .filter((each) => each.i === i)
      .map((each) => name(i, each.person, each.time))
      .join(' + ')} = 1`,
    `makespan ${weighted(i, '-')} >= ${minutes[i]}`,
    ...after.map((id) => {
      const j = activities.findIndex((each) => each.id === id)
      return `${weighted(i, '+').replace(/^\+ /, '')} ${weighted(j, '-')} >= ${minutes[j]}`
    }),
  ])
  // Two that one person does: one ends, and the way is gone, before the other begins.
  const apart = all.flatMap((one) =>
    all
      .filter(({ i, person, time }) => {
        if (i <= one.i || person !== one.person || person < 0) return false
        const way = travelMin(activities[one.i]?.place ?? '', activities[i]?.place ?? '')
        return time < one.time + (minutes[one.i] ?? 0) + way && one.time < time + (minutes[i] ?? 0) + way
      })
      .map(
        (other) => `${name(one.i, one.person, one.time)} + ${name(other.i, other.person, other.time)} <= 1`,
      ),
  )
  const model = [
    'Minimize\n obj: makespan\nSubject To',
    ...[...rows, ...apart].map((row, n) => ` r${n}: ${row}`),
    'Binary',
    ` ${all.map(({ i, person, time }) => name(i, person, time)).join('\n ')}`,
    'End',
  ].join('\n')
  return Math.round(highs.solve(model).ObjectiveValue)
}

describe('the exact schedule', () => {
  it('is the best of all ways there are', () => {
    fc.assert(
      fc.property(randomProject({ most: 6 }), (drawn) => {
        const project = { ...drawn, travelMin: () => 0 }
        const found = best(project)
        expect([found.layout.endMin, found.isProven]).toEqual([bruteForce(project), true])
      }),
      { numRuns: 60 },
    )
  })
  it('is what an integer programme finds, ways between places included', async () => {
    await fc.assert(
      fc.asyncProperty(randomProject({ most: 5 }), async (project) => {
        const found = best(project)
        expect(found.isProven).toBe(true)
        expect(await byIntegerProgramme(project, found.layout.endMin + 2)).toBe(found.layout.endMin)
      }),
      { numRuns: 15 },
    )
  }, 60_000)
  it('keeps one thing from being held twice', () => {
    const onBench = (about: string) => [
      activity(`${about}-in`, 2, { about, takes: ['bench'] }),
      activity(`${about}-wait`, 8, { about, hands: false, after: [`${about}-in`] }),
      activity(`${about}-out`, 1, { about, after: [`${about}-wait`], frees: ['bench'] }),
    ]
    const three = ['a', 'b', 'c'].flatMap(onBench)
    const ends = [1, 2, 3].map((ports) => best(aProject(three, { capacities: new Map([['bench', ports]]) })))
    // One at a time: 3 x 11. Two: the third waits for the first. Three: 2 + 2 + 2 + 8 + 1.
    expect(ends.map(({ layout }) => layout.endMin)).toEqual([33, 22, 15])
    expect(ends.every(({ isProven }) => isProven)).toBe(true)
  })
  it('is found where what was known ends a single minute later', () => {
    fc.assert(
      fc.property(randomProject({ most: 6 }), (project) => {
        const compiled = compile(project)
        const { layout } = best(project)
        const later = { ...layout, endMin: layout.endMin + 1 }
        expect(solveExactly(compiled, later).layout.endMin).toBe(layout.endMin)
      }),
      { numRuns: 30 },
    )
  })
  it('of thirty activities is found', () => {
    const thirty = Array.from({ length: 30 }, (_, i) =>
      activity(`a${i}`, 1 + ((i * 7) % 9), {
        hands: i % 4 !== 3,
        after: i < 4 ? [] : [`a${i - 4}`, ...(i % 3 === 0 ? [`a${i - 2}`] : [])],
      }),
    )
    const people = ['one', 'two'].map((id) => ({ id, skills: [], hours: ALWAYS }))
    const found = best(aProject(thirty, { people }))
    expect(found.isProven).toBe(true)
    expect(found.leastEndMin).toBe(found.layout.endMin)
  })
})
