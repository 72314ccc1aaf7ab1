import { describe, expect, it } from 'vitest'
import { BLANK_WORK } from '#core/edit'
import { firstDayOf, happenedIn, isBeforeDay, minutesOf, recordedTimes, type StepTold } from '.'

const work = { ...BLANK_WORK, startDate: '2026-07-06', timeZone: 'Europe/Berlin' }
const told = (activityId: string, state: StepTold['state'], clock: string): StepTold => ({
  activityId,
  state,
  at: `2026-07-06T${clock}:00Z`,
  person: 'rigger',
})

describe('what was told of steps', () => {
  it('lies on the site’s clock: 06:30 UTC is half past eight in summer in Berlin', () => {
    expect(minutesOf(work, 0)(Date.parse('2026-07-06T06:30:00Z'))).toBe(8 * 60 + 30)
    // 22:30 UTC is the next day there.
    expect(minutesOf(work, 0)(Date.parse('2026-07-06T22:30:00Z'))).toBe(1440 + 30)
    // What was before the first day counts as its beginning.
    expect(minutesOf(work, 0)(Date.parse('2026-07-01T06:30:00Z'))).toBe(0)
  })
  it('may be of before the first day there', () => {
    const isEarly = (at: string) => isBeforeDay('2026-07-06', 'Europe/Berlin', Date.parse(at))
    expect(isEarly('2026-07-05T21:59:00Z')).toBe(true)
    expect(isEarly('2026-07-05T22:00:00Z')).toBe(false)
  })
  it('is a start, then an end', () => {
    const happened = happenedIn(work, [told('a', 'started', '06:00'), told('b', 'started', '06:05')])
    expect(happened.get('a')).toEqual({ state: 'running', startMin: 480, endMin: null, personId: 'rigger' })
    const later = happenedIn(work, [told('a', 'started', '06:00'), told('a', 'done', '06:20')])
    expect(later.get('a')).toEqual({ state: 'done', startMin: 480, endMin: 500, personId: 'rigger' })
  })
  it('done without a start is done at that moment; failed and skipped as well', () => {
    for (const state of ['done', 'failed', 'skipped'] as const)
      expect(happenedIn(work, [told('a', state, '06:20')]).get('a')).toMatchObject({
        state,
        startMin: 500,
        endMin: 500,
      })
  })
  it('without a name of who does it is nobody’s', () => {
    expect(happenedIn(work, [{ ...told('a', 'done', '06:20'), person: '' }]).get('a')?.personId).toBeNull()
  })
  it('is taken back', () => {
    const records = [told('a', 'done', '06:20'), told('b', 'done', '06:20'), told('a', 'open', '06:21')]
    expect([...happenedIn(work, records).keys()]).toEqual(['b'])
  })
  it('of two who tell the same step the later counts, and neither is lost', () => {
    const records = [told('a', 'started', '06:00'), told('a', 'done', '06:10'), told('a', 'failed', '06:30')]
    expect(happenedIn(work, records).get('a')).toMatchObject({ state: 'failed', endMin: 510 })
  })
  it('told once more, later, has its first start and not the time of the telling', () => {
    const records = [told('a', 'started', '06:00'), told('a', 'done', '06:20'), told('a', 'done', '06:20')]
    expect(happenedIn(work, records).get('a')).toMatchObject({ startMin: 480, endMin: 500 })
  })
  it('says the first day where none is agreed', () => {
    const open = { ...work, startDate: null }
    expect(firstDayOf(open, [told('a', 'done', '22:30')])).toBe('2026-07-07')
    expect(firstDayOf(open, [])).toBeNull()
    expect(firstDayOf(work, [])).toBe('2026-07-06')
    expect(happenedIn(open, [told('a', 'done', '06:20')]).get('a')?.endMin).toBe(500)
  })
})

describe('recorded times', () => {
  const times = (...minutes: number[]): StepTold[] =>
    minutes.flatMap((length, i) => [
      { activityId: `boot:d${i}`, state: 'started', at: '2026-07-06T06:00:00Z', person: '' },
      {
        activityId: `boot:d${i}`,
        state: 'done',
        at: new Date(Date.parse('2026-07-06T06:00:00Z') + length * 60_000).toISOString(),
        person: '',
      },
    ])
  it('are least, median and worst, and how often', () => {
    expect(recordedTimes(times(3, 9, 4))).toEqual([
      { kind: 'boot', count: 3, leastMin: 3, usualMin: 4, worstMin: 9 },
    ])
    expect(recordedTimes(times(2, 4))).toMatchObject([{ usualMin: 3 }])
  })
  it('only count where both ends were told, and done', () => {
    const [start] = times(3)
    if (!start) throw new Error('no record')
    expect(recordedTimes([start])).toEqual([])
    expect(recordedTimes([start, { ...start, state: 'failed' }])).toEqual([])
    expect(recordedTimes([{ ...start, state: 'done' }])).toEqual([])
    expect(recordedTimes([start, { ...start, state: 'open' }, { ...start, state: 'done' }])).toEqual([])
    expect(recordedTimes([{ ...start, activityId: 'juggle:x' }])).toEqual([])
  })
  it('of the newest twenty: older habits do not count', () => {
    const old = times(...Array.from({ length: 10 }, () => 90))
    const recent = times(...Array.from({ length: 20 }, () => 5))
    expect(recordedTimes([...old, ...recent])).toMatchObject([{ count: 30, worstMin: 5 }])
  })
})
