// Question: when can something be done at all: in whose hours, by daylight, within the window?
// Method: intervals of minutes from midnight of the first day, on the site's clock; the first place where all that
// limit it leave enough room.
// Source: hours and days as ISO 8601 has them (1 is Monday).
import { DAY } from '#core/queries'
import { minuteOf, MOST_MINUTES } from '#core/format'
import type { Person, WorkFacts } from '#core/schema'
import { sunTimes } from './daylight'
import { offsetOf } from './time-zone'

/** Minutes from midnight of the first day; the end is not included. */
export interface Interval {
  readonly from: number
  readonly to: number
}

/** Work is laid out over at most so many days from now on. */
const MOST_DAYS = MOST_MINUTES / DAY
const DAY_MS = 86_400_000

/** Days from the first day to a date; null where no first day is agreed. */
export function dayOf(startDate: string | null, date: string): number | null {
  if (startDate === null) return null
  return Math.round((Date.parse(`${date}T00:00:00Z`) - Date.parse(`${startDate}T00:00:00Z`)) / DAY_MS)
}

/** The date of a day of the work, ISO 8601. Worked: 2 days from 2026-11-30 is 2026-12-02. */
export const dateOf = (startDate: string, day: number): string =>
  new Date(Date.parse(`${startDate}T00:00:00Z`) + day * DAY_MS).toISOString().slice(0, 10)

/** 1 is Monday; the first day counts as one while no date is agreed. */
function weekdayOf(startDate: string | null, day: number): number {
  const first = startDate === null ? 0 : (new Date(`${startDate}T00:00:00Z`).getUTCDay() + 6) % 7
  return ((first + day) % 7) + 1
}

/** Intervals in the order of their starts, those that meet joined. */
export function joined(intervals: readonly Interval[]): Interval[] {
  const out: Interval[] = []
  for (const next of intervals) {
    const last = out.at(-1)
    if (last && next.from <= last.to)
      out[out.length - 1] = { from: last.from, to: Math.max(last.to, next.to) }
    else out.push(next)
  }
  return out
}

/** Days that count: half a year from one on. */
const daysFrom = (firstDay: number): number[] => Array.from({ length: MOST_DAYS }, (_, i) => firstDay + i)

/**
 * A person's hours; those that end before they begin go on past midnight.
 * @param firstDay days from the first day of work from which on hours are wanted
 */
export function hoursOf(
  { days, from, to }: Pick<Person, 'days' | 'from' | 'to'>,
  startDate: string | null,
  firstDay = 0,
): Interval[] {
  const [first, second] = [minuteOf(from), minuteOf(to)]
  if (first === null || second === null || first === second) return []
  const length = second > first ? second - first : second - first + DAY
  return joined(
    daysFrom(firstDay)
      .filter((day) => days.includes(weekdayOf(startDate, day)))
      .map((day) => ({ from: day * DAY + first, to: day * DAY + first + length })),
  )
}

interface Place {
  readonly latDeg: number
  readonly lonDeg: number
}

/** Daylight of each day; null where place, date or time zone are not said, or the zone is none that is known. */
export function daylightAt(
  place: Place | null,
  { startDate, timeZone }: WorkFacts,
  firstDay = 0,
): Interval[] | null {
  const offsetAt = offsetOf(timeZone)
  if (!place || startDate === null || !offsetAt) return null
  return joined(
    daysFrom(firstDay).flatMap((day): Interval[] => {
      const date = dateOf(startDate, day)
      const sun = sunTimes(date, place)
      if (sun.kind === 'never-up') return []
      if (sun.kind !== 'rises') return [{ from: day * DAY, to: (day + 1) * DAY }]
      const midnight = day * DAY + offsetAt(Date.parse(`${date}T12:00:00Z`))
      return [{ from: Math.ceil(midnight + sun.riseUtcMin), to: Math.floor(midnight + sun.setUtcMin) }]
    }),
  )
}

/** The window of the cut-over; null where none is agreed, or no first day to count from. */
export function windowOf({ cutOver, startDate }: WorkFacts): Interval | null {
  const day = cutOver && dayOf(startDate, cutOver.date)
  const [first, second] = cutOver ? [minuteOf(cutOver.from), minuteOf(cutOver.to)] : [null, null]
  if (day === null || first === null || second === null) return null
  return { from: day * DAY + first, to: day * DAY + (second > first ? second : second + DAY) }
}

/** First of a list, by their ends, that ends after a time; their number where none does. Asked very often. */
export function firstEndingAfter(list: readonly { readonly to: number }[], time: number): number {
  let [low, high] = [0, list.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((list[middle]?.to ?? Infinity) > time) high = middle
    else low = middle + 1
  }
  return low
}

/** Earliest start, not before a time, at which so many minutes fit into one interval; null where they never do. */
export function firstFit(intervals: readonly Interval[], from: number, minutes: number): number | null {
  for (let at = firstEndingAfter(intervals, from); at < intervals.length; at++) {
    const interval = intervals[at]
    if (!interval) return null
    const start = Math.max(from, interval.from)
    if (start + minutes <= interval.to) return start
  }
  return null
}

/** The same where several lists must all leave room. */
export function firstFitOfAll(
  lists: readonly (readonly Interval[])[],
  from: number,
  minutes: number,
): number | null {
  let time = from
  for (;;) {
    const before = time
    for (const list of lists) {
      const fits = firstFit(list, time, minutes)
      if (fits === null) return null
      time = fits
    }
    if (time === before) return time
  }
}

/** Minutes of the intervals up to a time. */
export const minutesUntil = (intervals: readonly Interval[], time: number): number =>
  intervals.reduce((sum, { from, to }) => sum + Math.max(0, Math.min(to, time) - from), 0)
