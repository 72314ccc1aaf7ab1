import { spanOf } from '#core/edit'
import { isCalendarDate, minuteOf } from '#core/format'
import { clockOf, namesIn } from '#core/queries'
import { ok, problem, refuse, type Result } from '#core/util'

// Days of the week and times of day, as people read and type them.

export const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
/** `Mon-Fri, Sun`. */
export const dayWords = (days: readonly number[]): string =>
  spanOf(days.map(String)).replaceAll(/\d/g, (day) => DAYS[Number(day) - 1] ?? day)
/** `Mon, Tue`, as it is edited. */
export const daysTyped = (days: readonly number[]): string => days.map((day) => DAYS[day - 1]).join(', ')

/** Days of such words. Problems: not-days. */
export function readDays(text: string): Result<number[]> {
  const numbers = namesIn(
    text.replaceAll(/[A-Za-z]+/g, (word) =>
      String(DAYS.findIndex((day) => word.toLowerCase().startsWith(day.toLowerCase())) + 1),
    ),
  )
  return numbers.length > 0 && numbers.every((number) => /^[1-7]$/.test(number))
    ? ok([...new Set(numbers.map(Number))].sort((one, other) => one - other))
    : refuse(problem('not-days', '', { text }))
}

/** Times of day that most hours begin or end at; any other can be typed. */
export const HALF_HOURS = [...Array.from({ length: 48 }, (_, half) => clockOf(half * 30)), '24:00']

/** A time of day. Problems: not-a-time. */
export const readClock = (text: string): Result<string> =>
  minuteOf(text) === null ? refuse(problem('not-a-time', '', { text })) : ok(text)

/** A date of the calendar, ISO 8601, or nothing. Problems: not-a-date. */
export function readDate(text: string): Result<string> {
  return text === '' || isCalendarDate(text) ? ok(text) : refuse(problem('not-a-date', '', { text }))
}
