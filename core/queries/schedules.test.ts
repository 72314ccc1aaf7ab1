import { draft } from '#server/demo/build'
import { describe, expect, it } from 'vitest'
import {
  atInstant,
  DAY,
  down,
  schedulesHolding,
  scheduleInstants,
  scheduleIntervals,
  type FailureScenario,
} from '.'
import { minuteOf } from '#core/format'
import type { Schedule } from '#core/schema'
import { site, type LoosePlan } from '../../tests/plans'

const office: Schedule = {
  id: 'office',
  name: 'Office hours',
  days: [1, 2, 3, 4, 5],
  from: '08:00',
  to: '18:00',
}
const night: Schedule = { id: 'night', name: 'Night', days: [7], from: '22:00', to: '06:00' }
const holding = (schedules: readonly Schedule[], ...scenario: FailureScenario) => [
  ...schedulesHolding(
    site((p: LoosePlan) => void (p.schedules = draft(schedules))),
    scenario,
  ),
]

/** Worked: `1-08:00` is Monday, eight o'clock. */
const instant = (moment: string) =>
  atInstant((Number(moment[0]) - 1) * DAY + (minuteOf(moment.slice(2)) ?? 0))

describe('a time of day', () => {
  it.each([
    ['00:00', 0],
    ['08:30', 510],
    ['24:00', 1440],
    ['24:01', null],
    ['8:00', null],
    ['08:60', null],
    ['', null],
  ])('%s', (text, minutes) => expect(minuteOf(text)).toBe(minutes))
})

describe('a schedule', () => {
  it('holds from its beginning, and no longer at its end', () => {
    const at = (moment: string) => holding([office], instant(moment))
    expect([at('1-07:59'), at('1-08:00'), at('5-17:59'), at('5-18:00'), at('6-09:00')]).toEqual([
      [],
      ['office'],
      ['office'],
      [],
      [],
    ])
  })
  it('that ends before it begins goes on past midnight, from Sunday into Monday', () => {
    const at = (moment: string) => holding([night], instant(moment))
    expect([
      at('7-21:59'),
      at('7-22:00'),
      at('1-00:00'),
      at('1-05:59'),
      at('1-06:00'),
      at('2-05:00'),
    ]).toEqual([[], ['night'], ['night'], ['night'], [], []])
  })
  it('covers as many minutes of a week as its days have', () => {
    const minutes = (s: Schedule) => scheduleIntervals(s).reduce((sum, x) => sum + x.to - x.from, 0)
    expect([
      minutes(office),
      minutes(night),
      minutes({ ...office, from: '00:00', to: '24:00', days: [1, 2, 3, 4, 5, 6, 7] }),
      minutes({ ...office, to: '08:00' }),
      minutes({ ...office, days: [3, 3] }),
    ]).toEqual([5 * 600, 480, 7 * 1440, 0, 600])
  })
})

describe('moments of a week', () => {
  it('are one for each set of schedules that ever holds, the quietest first', () => {
    expect(scheduleInstants([office, night])).toEqual([
      { minute: 360, holds: [] },
      { minute: 0, holds: ['night'] },
      { minute: 480, holds: ['office'] },
    ])
    expect(
      scheduleInstants([office, { ...night, days: [1, 2, 3, 4, 5, 6, 7], from: '00:00', to: '24:00' }]),
    ).toEqual([
      { minute: 0, holds: ['night'] },
      { minute: 480, holds: ['office', 'night'] },
    ])
    expect(scheduleInstants([])).toEqual([{ minute: 0, holds: [] }])
  })
  it('a plan is judged at the quietest where none is named', () => {
    expect([
      holding([office]),
      holding([office], down('line')),
      holding([office], atInstant(24 * 60)),
      holding([office], atInstant(5 * 24 * 60 + 9 * 60)),
      holding([office], down('line'), atInstant(9 * 60)),
    ]).toEqual([[], [], [], [], ['office']])
  })
})
