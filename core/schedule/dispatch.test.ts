import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { activity, ALWAYS, aProject, randomProject } from '../../tests/projects'
import { scheduleFaults } from '../../tests/schedule-faults'
import { compile, createSearch, type Activity, type Project } from '.'
import { dispatcher, LAST, type Urgencies } from './dispatch'
import { layOut, type Layout } from './serial'

const NOTHING: Urgencies = { slackMin: 0, travel: 0, isHeld: 0, takes: 0, left: 0 }

const given = (project: Project, urgencies: Partial<Urgencies> = {}, more: readonly number[] = []) => {
  const compiled = compile(project)
  const orders = dispatcher(compiled)({ ...NOTHING, ...urgencies }, more)
  return { compiled, ...orders }
}
const startsOf = (project: Project, urgencies: Partial<Urgencies> = {}, more: readonly number[] = []) => [
  ...given(project, urgencies, more).keys,
]

const weights: fc.Arbitrary<Urgencies> = fc.record({
  slackMin: fc.integer({ min: 0, max: 10 }),
  travel: fc.integer({ min: 0, max: 4 }),
  isHeld: fc.integer({ min: -20, max: 50 }),
  takes: fc.integer({ min: -20, max: 40 }),
  left: fc.integer({ min: -1, max: 1 }),
})

describe('work given out along with the time', () => {
  it('keeps all that a schedule must keep, and laid out serially nothing of it comes later', () => {
    fc.assert(
      fc.property(randomProject({ most: 14, hours: true, chains: true }), weights, (project, urgencies) => {
        const { compiled, keys, people } = given(project, urgencies)
        const start = Float64Array.from(keys, (key) => (key === LAST ? NaN : key))
        const end = start.map((time, i) => time + (compiled.minutes[i] ?? 0))
        const lost = keys.flatMap((key, i) => (key === LAST ? [[i, 'waits'] as const] : []))
        const known: Layout = {
          start,
          end,
          person: people,
          unplaced: new Map(lost),
          endMin: 0,
          tieBreakMin: 0,
        }
        expect(scheduleFaults(compiled, known)).toEqual([])
        const serial = layOut(compiled, keys, people)
        expect(scheduleFaults(compiled, serial)).toEqual([])
        expect(serial.unplaced.size).toBeLessThanOrEqual(lost.length)
        if (lost.length === 0) expect(serial.endMin).toBeLessThanOrEqual(Math.max(...end))
      }),
      { numRuns: 200 },
    )
  })

  // One bench, and one person.
  const BENCH = [
    activity('take', 2, { about: 'x', takes: ['bench'] }),
    activity('other', 5),
    activity('free', 3, { about: 'x', after: ['take'], frees: ['bench'] }),
    activity('next', 2, { about: 'y', takes: ['bench'] }),
    activity('done', 1, { about: 'y', after: ['next'], frees: ['bench'] }),
  ]
  it('goes on with what is held, then takes the next, where that counts more than the order', () => {
    expect(startsOf(aProject(BENCH))).toEqual([0, 2, 7, 10, 12])
    expect(startsOf(aProject(BENCH), { isHeld: 9 })).toEqual([0, 5, 2, 10, 12])
    expect(startsOf(aProject(BENCH), { isHeld: 9, takes: 8 })).toEqual([0, 8, 2, 5, 7])
    expect(startsOf(aProject(BENCH), { isHeld: 9 }, [0, 10])).toEqual([5, 0, 7, 10, 12])
  })
  it('goes where it is near, begins the longest way first, and waits for what counts more', () => {
    const far = [
      activity('here', 4, { place: 'a' }),
      activity('there', 4, { place: 'b' }),
      activity('too', 4, { place: 'a' }),
    ]
    const travelMin = (from: string, to: string) => (from === to ? 0 : 3)
    expect(startsOf(aProject(far, { travelMin }), { travel: 1 })).toEqual([0, 11, 4])
    const ways = [activity('short', 4), activity('long', 1), activity('then', 6, { after: ['long'] })]
    expect(startsOf(aProject(ways))).toEqual([0, 4, 5])
    expect(startsOf(aProject(ways), { left: 1 })).toEqual([7, 0, 1])
    const soon = [
      activity('wait', 2, { hands: false }),
      activity('after', 3, { after: ['wait'] }),
      activity('now', 4),
    ]
    expect(startsOf(aProject(soon), { slackMin: 2 }, [0, 9])).toEqual([0, 2, 5])
    expect(startsOf(aProject(soon), { slackMin: 1 }, [0, 9])).toEqual([0, 4, 0])
  })
  it('begins after what has happened, with whoever may', () => {
    const project = aProject(
      [activity('past', 4), activity('high', 2, { skills: ['height'] }), activity('plain', 2)],
      {
        people: [
          { id: 'one', skills: [], hours: ALWAYS },
          { id: 'two', skills: ['height'], hours: ALWAYS },
        ],
        happened: new Map([['past', { state: 'running', startMin: 1, endMin: null, personId: 'two' }]]),
        nowMin: 3,
      },
    )
    const { keys, people } = given(project)
    expect([keys, [...people]]).toEqual([
      [1, 5, 3],
      [1, 1, 0],
    ])
  })
  it('leaves what nobody can do, and what waits for it, to the end', () => {
    const project = aProject([
      activity('high', 2, { skills: ['height'] }),
      activity('then', 2, { after: ['high'] }),
      activity('plain', 2),
    ])
    expect(startsOf(project)).toEqual([LAST, LAST, 0])
  })
})

describe('a search', () => {
  // Twelve things, each in eight steps of which it is on the bench for six; two at once, and two people. What can be
  // done off the bench fills the waits there, if it is not done before.
  const things = Array.from({ length: 12 }, (_, thing) =>
    [11, 14, 9, 17, 12, 15, 8, 10].map((minutes, step): Activity => {
      const id = `t${thing}s${step}`
      return activity(id, minutes + ((thing * 5 + step * 3) % 7), {
        about: `t${thing}`,
        hands: step !== 3 && step !== 5,
        place: `place${thing % 3}`,
        after: step === 0 ? [] : [`t${thing}s${step - 1}`],
        takes: step === 1 ? ['bench'] : [],
        frees: step === 6 ? ['bench'] : [],
      })
    }),
  ).flat()
  it('fills waits with what can be done elsewhere', () => {
    const compiled = compile(
      aProject(things, {
        people: ['one', 'two'].map((id) => ({ id, skills: [], hours: ALWAYS })),
        capacities: new Map([['bench', 2]]),
        travelMin: (from, to) => (from === to ? 0 : 5),
      }),
    )
    const search = createSearch(compiled, 1)
    search.improve(150)
    const { layout, leastEndMin } = search.best
    expect(scheduleFaults(compiled, layout)).toEqual([])
    // By the order alone it is 11 % above.
    expect(layout.endMin / leastEndMin).toBeLessThan(1.05)
  })
})
