import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { activity, ALWAYS, aProject, randomProject } from '../../tests/projects'
import { scheduleFaults } from '../../tests/schedule-faults'
import { arcsOf, chainTo } from './chain'
import { compile, createSearch, type Project } from '.'
import { layOut } from './serial'
import { mirrored } from './mirror'

const solved = (project: Project, tries = 0) => {
  const compiled = compile(project)
  const search = createSearch(compiled, 1)
  search.improve(tries)
  return { compiled, ...search.best }
}

// F. S. Hillier and G. J. Lieberman, Introduction to Operations Research, the Reliable Construction Co. project: weeks
// and predecessors; its critical path takes 44 weeks. Quoted from memory.
const CONSTRUCTION = [
  activity('A', 2),
  activity('B', 4, { after: ['A'] }),
  activity('C', 10, { after: ['B'] }),
  activity('D', 6, { after: ['C'] }),
  activity('E', 4, { after: ['C'] }),
  activity('F', 5, { after: ['E'] }),
  activity('G', 7, { after: ['D'] }),
  activity('H', 9, { after: ['E', 'G'] }),
  activity('I', 7, { after: ['C'] }),
  activity('J', 8, { after: ['F', 'I'] }),
  activity('K', 4, { after: ['J'] }),
  activity('L', 5, { after: ['J'] }),
  activity('M', 2, { after: ['H'] }),
  activity('N', 6, { after: ['K', 'L'] }),
].map((each) => ({ ...each, hands: false }))

describe('the critical path method', () => {
  it('finds 44 weeks and the path A B C E F J L N of the textbook project', () => {
    const { compiled, layout, isProven, leastEndMin } = solved(aProject(CONSTRUCTION))
    expect([layout.endMin, leastEndMin, isProven]).toEqual([44, 44, true])
    const chain = chainTo(compiled, arcsOf(compiled, layout), layout)
    expect(chain.map((i) => CONSTRUCTION[i]?.id).join(' ')).toBe('A B C E F J L N')
  })
  it('one person doing all of it takes the sum, 79 weeks', () => {
    expect(solved(aProject(CONSTRUCTION.map((each) => ({ ...each, hands: true })))).layout.endMin).toBe(79)
  })
})

describe('every schedule', () => {
  it('keeps precedence, people, skills, hours, daylight, ways and what is held', () => {
    fc.assert(
      fc.property(randomProject({ most: 14, hours: true, chains: true }), fc.integer(), (project, seed) => {
        const compiled = compile(project)
        const search = createSearch(compiled, seed)
        search.improve(5)
        const { layout, leastEndMin } = search.best
        expect(scheduleFaults(compiled, layout)).toEqual([])
        if (layout.unplaced.size === 0) expect(layout.endMin).toBeGreaterThanOrEqual(leastEndMin)
        const lazy = layOut(
          compiled,
          compiled.minutes.map((_, i) => -i),
        )
        expect(scheduleFaults(compiled, lazy)).toEqual([])
      }),
      { numRuns: 150 },
    )
  })
  it('is the same for the same seed', () => {
    fc.assert(
      fc.property(randomProject({ most: 40 }), fc.integer(), (project, seed) => {
        const ends = [1, 2].map(() => {
          const search = createSearch(compile(project), seed)
          search.improve(10)
          return [...search.best.layout.start]
        })
        expect(ends[0]).toEqual(ends[1])
      }),
      { numRuns: 20 },
    )
  })
  it('laid out backwards keeps the same order turned around', () => {
    fc.assert(
      fc.property(randomProject({ most: 12, chains: true }), (project) => {
        const compiled = compile(project)
        const forward = layOut(
          compiled,
          compiled.minutes.map((_, i) => i),
        )
        const turned = mirrored(compiled, forward.endMin)
        const backward = layOut(
          turned,
          compiled.minutes.map((_, i) => -i),
        )
        expect(scheduleFaults(turned, backward)).toEqual([])
      }),
      { numRuns: 60 },
    )
  })
})

describe('what happened', () => {
  const three = [activity('a', 10), activity('b', 10, { after: ['a'] }), activity('c', 10, { after: ['b'] })]
  const did = (
    state: 'done' | 'running' | 'failed' | 'skipped',
    startMin: number,
    endMin: number | null,
  ) => ({
    state,
    startMin,
    endMin,
    personId: 'one',
  })
  it('stays, and the rest comes after now', () => {
    const { layout } = solved(aProject(three, { happened: new Map([['a', did('done', 3, 7)]]), nowMin: 30 }))
    expect([...layout.start]).toEqual([3, 30, 40])
    expect([...layout.end]).toEqual([7, 40, 50])
  })
  it('what runs late is taken to end now at the earliest', () => {
    const { layout } = solved(
      aProject(three, { happened: new Map([['a', did('running', 0, null)]]), nowMin: 25 }),
    )
    expect([...layout.end]).toEqual([25, 35, 45])
  })
  it('of what failed all that waits for it has no time, and nothing else', () => {
    const project = aProject([...three, activity('d', 5)], {
      happened: new Map([['a', did('failed', 0, 4)]]),
      nowMin: 4,
    })
    const { layout } = solved(project)
    expect([...layout.unplaced]).toEqual([
      [1, 'waits'],
      [2, 'waits'],
    ])
    expect(layout.end[3]).toBe(9)
  })
  it('counts although what it waits for failed, and so does what waits for it alone', () => {
    const happened = new Map([
      ['a', did('failed', 0, 4)],
      ['b', did('done', 5, 9)],
    ])
    const { layout } = solved(aProject(three, { happened, nowMin: 10 }))
    expect([...layout.unplaced]).toEqual([])
    expect([...layout.start]).toEqual([0, 5, 10])
  })
  it('at once by one person leaves that person busy until both are over', () => {
    const happened = new Map([
      ['a', { ...did('running', 0, null), startMin: 0 }],
      ['d', did('done', 1, 2)],
    ])
    const { layout } = solved(
      aProject([activity('a', 40), activity('d', 1), activity('e', 5)], { happened, nowMin: 3 }),
    )
    expect(layout.start[2]).toBe(40)
  })
  it('never changes, whatever is laid out anew', () => {
    fc.assert(
      fc.property(randomProject({ most: 12, chains: true }), fc.nat({ max: 40 }), (project, nowMin) => {
        const first = solved(project)
        const happened = new Map(
          project.activities.flatMap(({ id }, i) => {
            const [startMin, endMin] = [first.layout.start[i] ?? 0, first.layout.end[i] ?? 0]
            const personId = project.people[first.layout.person[i] ?? -1]?.id ?? null
            return endMin <= nowMin
              ? [[id, { state: 'done' as const, startMin, endMin, personId }] as const]
              : []
          }),
        )
        const again = solved({ ...project, happened, nowMin })
        project.activities.forEach(({ id }, i) => {
          const was = happened.get(id)
          if (was) expect([again.layout.start[i], again.layout.end[i]]).toEqual([was.startMin, was.endMin])
          else expect(again.layout.start[i]).toBeGreaterThanOrEqual(nowMin)
        })
      }),
      { numRuns: 60 },
    )
  })
})

describe('a wish', () => {
  it('for a person or a time is kept', () => {
    const project = aProject([activity('a', 10), activity('b', 10)], {
      people: ['one', 'two'].map((id) => ({ id, skills: [], hours: ALWAYS })),
      wishes: new Map([
        ['a', { personId: 'two', notBeforeMin: null }],
        ['b', { personId: 'two', notBeforeMin: 3 }],
      ]),
    })
    const { layout } = solved(project)
    expect([...layout.person]).toEqual([1, 1])
    expect(layout.start[1]).toBeGreaterThanOrEqual(3)
  })
})

describe('what cannot be', () => {
  it('keeps nothing from others: what it would have held is free', () => {
    const project = aProject([
      activity('in', 2, { about: 'a', takes: ['bench'] }),
      activity('out', 2, { about: 'a', after: ['in'], frees: ['bench'], skills: ['height'] }),
      activity('other-in', 2, { about: 'b', takes: ['bench'] }),
      activity('other-out', 2, { about: 'b', after: ['other-in'], frees: ['bench'] }),
    ])
    expect([...solved(project).layout.unplaced]).toEqual([[1, 'nobody']])
  })
  it('says why, and what waits for it says that it waits', () => {
    const project = aProject(
      [
        activity('roof', 10, { skills: ['height'] }),
        activity('after', 5, { after: ['roof'] }),
        activity('long', 50, { limit: 'window' }),
        activity('dark', 30, { limit: 'daylight' }),
        activity('whole day', 300),
      ],
      {
        people: [{ id: 'one', skills: [], hours: [{ from: 0, to: 100 }] }],
        window: { from: 10, to: 40 },
        daylight: [{ from: 0, to: 20 }],
      },
    )
    const { layout } = solved(project)
    expect([...layout.unplaced.values()]).toEqual(['nobody', 'waits', 'window', 'daylight', 'hours'])
  })
})
