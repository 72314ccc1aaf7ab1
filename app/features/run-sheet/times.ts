import { format } from 'date-fns/format'
import { parseISO } from 'date-fns/parseISO'
import { dateOf, dayOf } from '#core/schedule'
import { DAY } from '#core/queries'
import { isCalendarDate, minuteOf, MOST_MINUTES } from '#core/format'
import { ok, problem, refuse, type Result } from '#core/util'

// Minutes from midnight of the first day, as people say and type them.

const two = (number: number): string => String(number).padStart(2, '0')
/** `08:15` of any day. */
export const clockText = (minutes: number): string => {
  const whole = Math.round(minutes)
  return `${two(Math.floor((whole % DAY) / 60))}:${two(whole % 60)}`
}

/** `Mon 7 Dec`, or `day 1` while no date is agreed. */
export function dayText(startDate: string | null, day: number): string {
  if (startDate === null) return `day ${day + 1}`
  return format(parseISO(dateOf(startDate, day)), 'EEE d MMM')
}

/** `Mon 7 Dec 08:15`. */
export const timeText = (startDate: string | null, minutes: number): string =>
  `${dayText(startDate, Math.floor(Math.round(minutes) / DAY))} ${clockText(minutes)}`

/** `3 h 05`, `45 min`, `2 d 4 h`. */
export function lengthText(minutes: number): string {
  const whole = Math.round(minutes)
  if (whole < 60) return `${whole} min`
  if (whole < 2 * DAY) return `${Math.floor(whole / 60)} h ${two(whole % 60)}`
  return `${Math.floor(whole / DAY)} d ${Math.floor((whole % DAY) / 60)} h`
}

/** `2026-12-07 08:15`, as it is typed; `1 08:15` while no date is agreed. */
export const typedTime = (startDate: string | null, minutes: number): string => {
  const day = Math.floor(minutes / DAY)
  return `${startDate === null ? day + 1 : dateOf(startDate, day)} ${clockText(minutes)}`
}

/** A time that was typed, in minutes. Problems: not-a-moment. */
export function readTime(startDate: string | null, text: string): Result<number> {
  const [, date = '', clock = ''] = /^(\S+)\s+(\d\d:\d\d)$/.exec(text.trim()) ?? []
  const minute = minuteOf(clock)
  const counted = isCalendarDate(date) ? dayOf(startDate, date) : null
  const day = startDate === null ? Number(date) - 1 : counted
  const minutes = (day ?? NaN) * DAY + (minute ?? NaN)
  return Number.isInteger(minutes) && minutes >= 0 && minutes <= MOST_MINUTES
    ? ok(minutes)
    : refuse(problem('not-a-moment', '', { text: text.slice(0, 40) }))
}
