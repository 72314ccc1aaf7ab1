import { describe, expect, it } from 'vitest'
import { dateOf, dayOf, daylightAt, firstFit, hoursOf, minutesUntil, windowOf } from './calendar'
import { sunTimes } from './daylight'
import { offsetOf } from './time-zone'
import { BLANK_WORK } from '#core/edit'

const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(Math.round(minutes % 60)).padStart(2, '0')}`

describe('the sun', () => {
  // Almanac times, from memory: to the minute, and the equations are good to about two.
  it.each([
    ['Greenwich, midsummer 2020', '2020-06-21', 51.4779, ['03:43', '20:21']],
    ['Greenwich, midwinter 2020', '2020-12-21', 51.4779, ['08:04', '15:53']],
    ['on the equator, March equinox 2024', '2024-03-20', 0, ['06:04', '18:11']],
  ])('%s', (_, date, latDeg, [rise, set]) => {
    const sun = sunTimes(date, { latDeg, lonDeg: 0 })
    expect(sun.kind).toBe('rises')
    if (sun.kind !== 'rises') return
    const minutes = (text = '') => Number(text.slice(0, 2)) * 60 + Number(text.slice(3))
    expect(Math.abs(sun.riseUtcMin - minutes(rise)), clock(sun.riseUtcMin)).toBeLessThan(2.5)
    expect(Math.abs(sun.setUtcMin - minutes(set)), clock(sun.setUtcMin)).toBeLessThan(2.5)
  })
  it('does not set at 70 degrees north in June, nor rise there in December', () => {
    expect(sunTimes('2026-06-21', { latDeg: 70, lonDeg: 25 }).kind).toBe('always-up')
    expect(sunTimes('2026-12-21', { latDeg: 70, lonDeg: 25 }).kind).toBe('never-up')
  })
  it('rises four minutes later for each degree westwards', () => {
    const rise = (lonDeg: number) => {
      const sun = sunTimes('2026-03-20', { latDeg: 40, lonDeg })
      return sun.kind === 'rises' ? sun.riseUtcMin : NaN
    }
    expect(rise(-15) - rise(0)).toBeCloseTo(60, 0)
  })
})

describe('a time zone', () => {
  it('has its summer time, and none that is not known', () => {
    expect(offsetOf('Europe/Berlin')?.(Date.UTC(2026, 6, 1))).toBe(120)
    expect(offsetOf('Europe/Berlin')?.(Date.UTC(2026, 0, 1))).toBe(60)
    expect(offsetOf('Asia/Kathmandu')?.(Date.UTC(2026, 0, 1))).toBe(345)
    expect(offsetOf('Nowhere/Town')).toBeNull()
  })
})

describe('hours', () => {
  const week = { days: [1, 2, 3, 4, 5], from: '08:00', to: '17:00' }
  it('of a working week leave the weekend out', () => {
    // 2026-12-11 is a Friday.
    const [friday, monday] = hoursOf(week, '2026-12-11')
    expect(friday).toEqual({ from: 480, to: 1020 })
    expect(monday).toEqual({ from: 3 * 1440 + 480, to: 3 * 1440 + 1020 })
  })
  it('while no date is agreed begin on a Monday', () => {
    expect(hoursOf({ ...week, days: [6] }, null)[0]?.from).toBe(5 * 1440 + 480)
  })
  it('past midnight are one interval, and whole days join', () => {
    expect(hoursOf({ days: [1], from: '22:00', to: '06:00' }, null)[0]).toEqual({ from: 1320, to: 1800 })
    expect(hoursOf({ days: [1, 2, 3, 4, 5, 6, 7], from: '00:00', to: '24:00' }, null)).toHaveLength(1)
  })
  it('are there half a year from any day on', () => {
    expect(hoursOf(week, '2026-12-07', 400)[0]?.from).toBeGreaterThanOrEqual(400 * 1440)
  })
  it('that begin when they end are none', () => {
    expect(hoursOf({ ...week, from: '08:00', to: '08:00' }, null)).toEqual([])
  })
})

describe('what fits', () => {
  const list = [
    { from: 10, to: 20 },
    { from: 30, to: 60 },
  ]
  it('begins in the first interval with room, which may be filled to its end', () => {
    expect(firstFit(list, 0, 10)).toBe(10)
    expect(firstFit(list, 0, 11)).toBe(30)
    expect(firstFit(list, 11, 9)).toBe(11)
    expect(firstFit(list, 12, 9)).toBe(30)
    expect(firstFit(list, 31, 30)).toBeNull()
  })
  it('adds up to a time', () => {
    expect([5, 15, 25, 100].map((time) => minutesUntil(list, time))).toEqual([0, 5, 10, 40])
  })
})

describe('dates', () => {
  it('count from the first day, over the end of a year', () => {
    expect(dayOf('2026-12-30', '2027-01-02')).toBe(3)
    expect(dateOf('2026-12-30', 3)).toBe('2027-01-02')
    expect(dayOf(null, '2027-01-02')).toBeNull()
  })
  it('make a window, past midnight too', () => {
    const work = { ...BLANK_WORK, startDate: '2026-12-30' }
    const cutOver = { date: '2026-12-31', from: '22:00', to: '02:00' }
    expect(windowOf({ ...work, cutOver })).toEqual({ from: 1440 + 1320, to: 1440 + 1440 + 120 })
    expect(windowOf({ ...BLANK_WORK, cutOver })).toBeNull()
  })
  it('give daylight only where place, date and zone are said', () => {
    const work = { ...BLANK_WORK, startDate: '2020-06-21', timeZone: 'Europe/London' }
    const place = { latDeg: 51.4779, lonDeg: 0 }
    const [first] = daylightAt(place, work) ?? []
    // 04:43 British Summer Time.
    expect(Math.abs((first?.from ?? 0) - 283)).toBeLessThan(3)
    expect(daylightAt(null, work)).toBeNull()
    expect(daylightAt(place, { ...work, timeZone: '' })).toBeNull()
    expect(daylightAt(place, { ...work, timeZone: 'Nowhere/Town' })).toBeNull()
    expect(daylightAt(place, { ...work, startDate: null })).toBeNull()
  })
})
