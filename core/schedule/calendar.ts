// Question: when can something be done at all: in whose hours, by daylight, within the window?
// Method: stretches of minutes from midnight of the first day, on the site's clock; the first place where all that
// limit it leave enough room.
// Source: hours and days as ISO 8601 has them (1 is Monday).
import { DAY } from '#core/queries'
import { minuteOf } from '#core/format'
import type { Person, WorkFacts } from '#core/schema'
import { sunTimes } from './daylight'
import { offsetMinutes } from './time-zone'

/** Minutes from midnight of the first day; the end is not included. */
export interface Stretch {
  readonly from: number
  readonly to: number
}

/** Work is laid out over at most so many days. */
export const MOST_DAYS = 180
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

/** Stretches in their order, those that meet joined. */
function joined(stretches: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = []
  for (const next of stretches) {
    const last = out.at(-1)
    if (last && next.from <= last.to)
      out[out.length - 1] = { from: last.from, to: Math.max(last.to, next.to) }
    else out.push(next)
  }
  return out
}

/** A person's hours over the whole time; hours that end before they begin go on past midnight. */
export function hoursOf({ days, from, to }: Pick<Person, 'days' | 'from' | 'to'>, startDate: string | null) {
  const [first, second] = [minuteOf(from), minuteOf(to)]
  if (first === null || second === null || first === second) return []
  const length = second > first ? second - first : second - first + DAY
  return joined(
    Array.from({ length: MOST_DAYS }, (_, day) => day)
      .filter((day) => days.includes(weekdayOf(startDate, day)))
      .map((day) => ({ from: day * DAY + first, to: day * DAY + first + length })),
  )
}

interface Place {
  readonly latDeg: number
  readonly lonDeg: number
}

/** Daylight of each day; null where place, date or time zone are not said, and for days when the sun does not set. */
export function daylightAt(place: Place | null, { startDate, timeZone }: WorkFacts): Stretch[] | null {
  if (!place || startDate === null || timeZone === '') return null
  return joined(
    Array.from({ length: MOST_DAYS }, (_, day): Stretch[] => {
      const date = dateOf(startDate, day)
      const offset = offsetMinutes(timeZone, Date.parse(`${date}T12:00:00Z`))
      const sun = sunTimes(date, place)
      if (sun.kind === 'never-up') return []
      if (offset === null || sun.kind !== 'rises') return [{ from: day * DAY, to: (day + 1) * DAY }]
      return [
        {
          from: Math.ceil(day * DAY + sun.riseUtcMin + offset),
          to: Math.floor(day * DAY + sun.setUtcMin + offset),
        },
      ]
    }).flat(),
  )
}

/** The window of the cut-over; null where none is agreed, or no first day to count from. */
export function windowOf({ cutOver, startDate }: WorkFacts): Stretch | null {
  const day = cutOver && dayOf(startDate, cutOver.date)
  const [first, second] = cutOver ? [minuteOf(cutOver.from), minuteOf(cutOver.to)] : [null, null]
  if (day === null || first === null || second === null) return null
  return { from: day * DAY + first, to: day * DAY + (second > first ? second : second + DAY) }
}

/** First of the stretches that ends after a time, by halving; their number where none does. */
function indexAfter(stretches: readonly Stretch[], time: number): number {
  let [low, high] = [0, stretches.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((stretches[middle]?.to ?? Infinity) > time) high = middle
    else low = middle + 1
  }
  return low
}

/** Earliest start, not before a time, at which so many minutes fit into one stretch; null where they never do. */
export function firstFit(stretches: readonly Stretch[], from: number, minutes: number): number | null {
  for (let at = indexAfter(stretches, from); at < stretches.length; at++) {
    const stretch = stretches[at]
    if (!stretch) return null
    const start = Math.max(from, stretch.from)
    if (start + minutes <= stretch.to) return start
  }
  return null
}

/** Minutes of the stretches up to a time. */
export const minutesUntil = (stretches: readonly Stretch[], time: number): number =>
  stretches.reduce((sum, { from, to }) => sum + Math.max(0, Math.min(to, time) - from), 0)
