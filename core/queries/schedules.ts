// Question: at which moments of a week do which schedules hold?
// Method: the week is cut wherever a schedule begins or ends; between two cuts the same schedules hold.
// Of moments at which the same hold the first stands for all, and the one at which fewest hold is what a plan
// is judged at when no moment is named.
// Source: days and hours as nft(8) has them (`meta day`, `meta hour`), ISO 8601:
// Monday is day 1.
import { minuteOf } from '#core/format'
import type { Schedule, Plan } from '#core/schema'
import type { FailureScenario } from './failure-scenario'

export const DAY_NAMES = [
  'Monday',
  'Tuesday',
  'Wednesday',
  'Thursday',
  'Friday',
  'Saturday',
  'Sunday',
] as const
/** Minutes of a day. */
export const DAY = 1440
const WEEK = 7 * DAY

/**
 * Stretches of the week in which a schedule holds, minutes from Monday 00:00, ends not included.
 * One that ends before it begins goes on past midnight.
 */
export function scheduleIntervals({
  days,
  from,
  to,
}: Schedule): { readonly from: number; readonly to: number }[] {
  const [first, second] = [minuteOf(from), minuteOf(to)]
  if (first === null || second === null || first === second) return []
  return [...new Set(days)].flatMap((day) => {
    const begin = (day - 1) * DAY + first
    const end = begin + (second > first ? second - first : second - first + DAY)
    return end <= WEEK
      ? [{ from: begin, to: end }]
      : [
          { from: begin, to: WEEK },
          { from: 0, to: end - WEEK },
        ]
  })
}

export interface ScheduleInstant {
  /** Minutes from Monday 00:00. */
  readonly minute: number
  /** Ids of the schedules that hold then. */
  readonly holds: readonly string[]
}

/** A minute of a day, or of the week, as the clock shows it. Worked: 510 -> `08:30`. */
export const clockOf = (minute: number): string =>
  `${String(Math.floor((minute % DAY) / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`

const heldAt = (schedules: readonly Schedule[], minute: number): string[] =>
  schedules
    .filter((s) => scheduleIntervals(s).some((x) => x.from <= minute && minute < x.to))
    .map((s) => s.id)

/**
 * Every set of schedules that ever holds, at the first moment of the week at which it does; the usual one,
 * with the fewest, first.
 */
export function scheduleInstants(schedules: Plan['schedules']): readonly ScheduleInstant[] {
  const cuts = [
    ...new Set([0, ...schedules.flatMap((s) => scheduleIntervals(s).flatMap((x) => [x.from, x.to % WEEK]))]),
  ].sort((a, b) => a - b)
  const known = new Map<string, ScheduleInstant>()
  for (const minute of cuts) {
    const holds = heldAt(schedules, minute)
    if (!known.has(holds.join(' '))) known.set(holds.join(' '), { minute, holds })
  }
  const all = [...known.values()]
  const usual = all.reduce((best, m) => (m.holds.length < best.holds.length ? m : best))
  return [usual, ...all.filter((m) => m !== usual)]
}

const NONE: ReadonlySet<string> = new Set()
/** The schedules that hold under a scenario: at the instant it names, or at the usual one. */
export function schedulesHolding(plan: Plan, scenario: FailureScenario): ReadonlySet<string> {
  if (plan.schedules.length === 0) return NONE
  const instant = scenario.find((condition) => condition.kind === 'instant')
  return new Set(
    instant ? heldAt(plan.schedules, instant.minute) : scheduleInstants(plan.schedules)[0]?.holds,
  )
}
