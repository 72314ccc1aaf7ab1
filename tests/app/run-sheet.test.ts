import { describe, expect, it } from 'vitest'
import { lengthText, readTime, timeText, typedTime } from '../../app/features/run-sheet/times'
import { summaryWords } from '../../app/features/run-sheet/words'
import { timelineOf } from '../../app/features/run-sheet/timeline'
import {
  blockersOf,
  currentStep,
  newestRecords,
  stepsOf,
  type ShownRecord,
} from '../../app/features/field-cards/steps'
import { KINDS, type Timetable, type TimetableRow } from '#core/schedule'
import type { ActivityKind } from '#core/schema'

const row = (id: string, startMin: number | null, rest: Partial<TimetableRow> = {}): TimetableRow => {
  const kind = (id.split(':')[0] ?? '') as ActivityKind
  return {
    id,
    kind,
    group: KINDS[kind].group,
    about: id.split(':')[1] ?? '',
    deviceId: null,
    place: 'Hall',
    duration: { leastMin: 5, usualMin: 10, worstMin: 20, source: 'practice' },
    hands: true,
    skills: [],
    limit: 'any',
    after: [],
    startMin,
    endMin: startMin === null ? null : startMin + 10,
    personId: 'one',
    unplaced: null,
    waitsFor: null,
    isCritical: false,
    state: 'planned',
    ...rest,
  }
}
const table = (rows: readonly TimetableRow[], rest: Partial<Timetable> = {}): Timetable => ({
  rows,
  endMin: 0,
  leastEndMin: 0,
  isProven: false,
  window: null,
  turnBackMin: null,
  travelMin: 0,
  ...rest,
})

describe('times', () => {
  it('are a date and a clock, or a numbered day', () => {
    expect(timeText('2026-12-07', 1440 + 8 * 60 + 5)).toBe('Tue 8 Dec 08:05')
    expect(timeText(null, 1440 + 485)).toBe('day 2 08:05')
    expect([45, 185, 2900].map(lengthText)).toEqual(['45 min', '3 h 05', '2 d 0 h'])
  })
  it.each([
    ['2026-12-07', 1440 + 485],
    [null, 485],
  ])('typed from %s are read back', (start, minutes) => {
    expect(readTime(start, typedTime(start, minutes))).toEqual({ ok: true, value: minutes })
  })
  it.each([
    '',
    'tomorrow',
    '2026-12-07',
    '2026-12-06 08:00',
    '2027-02-30 08:00',
    '2026-12-07 8:00',
    '2028-12-07 08:00',
  ])('%j is no time after 2026-12-07', (text) => {
    expect(readTime('2026-12-07', text).ok).toBe(false)
  })
})

describe('the summary', () => {
  const whole = table([], { endMin: 485, leastEndMin: 480 })
  it('says what is best, and never that all is done where a step has no time', () => {
    expect(summaryWords(whole, 0, null)).toBe('Ends day 1 08:05; at best day 1 08:00.')
    expect(summaryWords({ ...whole, isProven: true, travelMin: 65 }, 0, null)).toBe(
      'Ends day 1 08:05; no schedule ends sooner, 1 h 05 of travel.',
    )
    expect(summaryWords({ ...whole, leastEndMin: 485 }, 3, null)).toMatch(/^Not all of it can be done/)
  })
})

describe('the timeline', () => {
  const bench = [row('unbox:a', 480), row('power:a', 490), row('unbox:b', 500)]
  it('of nothing is empty', () => {
    expect(timelineOf(table([]), ['one']).strips).toEqual([])
  })
  it('joins what belongs together, and parts what does not', () => {
    const far = row('mount:a', 530, { place: 'Mast' })
    const [strip] = timelineOf(table([...bench, far]), ['one']).strips
    expect(strip?.blocks.map(({ rows }) => rows.map(({ id }) => id))).toEqual([
      ['unbox:a', 'power:a', 'unbox:b'],
      ['mount:a'],
    ])
    // Between them lies the way from one place to the other.
    expect(strip?.journeys).toHaveLength(1)
  })
  it('has a strip for each day of work, a lane for each person, and one for waits', () => {
    const rows = [
      ...bench,
      row('boot:a', 500, { hands: false, personId: null }),
      row('mount:b', 1440 + 600, { personId: 'two' }),
    ]
    const { strips, fromMin, toMin } = timelineOf(table(rows), ['one', 'two'])
    expect(strips.map(({ day }) => day)).toEqual([0, 1])
    expect(strips[0]?.blocks.map(({ lane }) => lane)).toEqual([0, 2])
    expect(strips[1]?.blocks[0]?.lane).toBe(1)
    expect([fromMin, toMin]).toEqual([480, 660])
  })
  it('shows gates and the window where they are', () => {
    const gate = row('gate-begin', 600)
    const [strip] = timelineOf(table([...bench, gate], { window: { from: 590, to: 650 } }), ['one']).strips
    expect(strip?.gates.map((each) => each.row.id)).toEqual(['gate-begin'])
    expect(strip?.window?.width).toBeGreaterThan(0)
    expect(strip?.blocks.flatMap(({ rows }) => rows.map(({ id }) => id))).not.toContain('gate-begin')
  })
  it('leaves out what has no time', () => {
    expect(timelineOf(table([row('mount:a', null)]), ['one']).strips).toEqual([])
  })
})

describe('field cards', () => {
  const record = (activityId: string, state: ShownRecord['state']): ShownRecord => ({
    id: 1,
    activityId,
    state,
    at: '2026-12-07T08:00:00Z',
    who: 'Rigger',
    reading: '',
    note: '',
    person: '',
    knows: 0,
    values: [],
  })
  const rows = [
    row('unbox:a', 480),
    row('boot:a', 490, { hands: false, personId: null, after: ['unbox:a'] }),
    row('mount:a', 500, { after: ['boot:a'] }),
    row('mount:b', 480, { personId: 'two' }),
  ]
  it('of one person are that person’s, with the waits after them', () => {
    expect(stepsOf(rows, 'one').map(({ id }) => id)).toEqual(['unbox:a', 'boot:a', 'mount:a'])
    expect(stepsOf(rows, 'two').map(({ id }) => id)).toEqual(['mount:b'])
    expect(stepsOf(rows, '')).toHaveLength(4)
  })
  it('show first what runs, then what can begin', () => {
    const current = (...records: ShownRecord[]) => currentStep(rows, newestRecords(records), rows)
    expect(current()).toBe('unbox:a')
    expect(current(record('unbox:a', 'done'))).toBe('boot:a')
    expect(current(record('unbox:a', 'done'), record('boot:a', 'started'))).toBe('mount:b')
    expect(current(record('mount:b', 'started'))).toBe('mount:b')
    expect(current(...rows.map(({ id }) => record(id, 'done')))).toBe('')
  })
  it('say what a step waits for; what was skipped holds up nothing, what failed does', () => {
    const blockers = (...records: ShownRecord[]) =>
      blockersOf(rows[2] ?? row('mount:a', 0), newestRecords(records), rows).map(({ id }) => id)
    expect(blockers()).toEqual(['boot:a'])
    expect(blockers(record('boot:a', 'skipped'))).toEqual([])
    expect(blockers(record('boot:a', 'failed'))).toEqual(['boot:a'])
    expect(blockers(record('boot:a', 'done'), record('boot:a', 'open'))).toEqual(['boot:a'])
  })
})
