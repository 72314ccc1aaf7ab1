// Question: what do the records of steps say: what has happened, and how long do things take here?
// Method: the records in the order in which they came; the newest of a step counts, one that says `open` takes back
// what was said before. A length counts where both a start and an end were told.
// Source: none; the median is that of the newest lengths.
import { DAY } from '#core/queries'
import type { ActivityKind, WorkFacts } from '#core/schema'
import { KINDS } from './activity'
import { dayOf } from './calendar'
import { readActivityId } from './draft'
import type { Happened } from './project'
import { offsetOf } from './time-zone'

export interface StepTold {
  readonly activityId: string
  readonly state: 'started' | 'done' | 'failed' | 'skipped' | 'open'
  /** ISO 8601. */
  readonly at: string
  /** Id of who of the plan's people does it; empty where that was not said. */
  readonly person: string
}

/** Where a moment lies on the site's clock: its date, and the minute of that day. */
type Clock = (atMs: number) => { readonly date: string; readonly minute: number }

/** A zone that is not said, or not known, is UTC. */
function clockOf(timeZone: string): Clock {
  const offsetAt = (timeZone === '' ? null : offsetOf(timeZone)) ?? (() => 0)
  return (atMs) => {
    const here = new Date(atMs + offsetAt(atMs) * 60_000)
    return { date: here.toISOString().slice(0, 10), minute: here.getUTCHours() * 60 + here.getUTCMinutes() }
  }
}

/**
 * Minutes from midnight of the first day, of one moment after the other; 0 for what was before it.
 * @param firstMs a moment of the day that counts as the first while none is agreed
 */
export function minutesOf(work: WorkFacts, firstMs: number): (atMs: number) => number {
  const clock = clockOf(work.timeZone)
  const start = work.startDate ?? clock(firstMs).date
  return (atMs) => {
    const { date, minute } = clock(atMs)
    return Math.max(0, (dayOf(start, date) ?? 0) * DAY + minute)
  }
}

/** Whether a moment lies before a day, on the clock of a zone. */
export const isBeforeDay = (date: string, timeZone: string, atMs: number): boolean =>
  clockOf(timeZone)(atMs).date < date

/** The first day: as agreed, or that of the first record; null where there is neither. */
export function firstDayOf(work: WorkFacts, told: readonly StepTold[]): string | null {
  if (work.startDate !== null) return work.startDate
  const [first] = told
  return first ? clockOf(work.timeZone)(Date.parse(first.at)).date : null
}

/** What has happened, by activity. */
export function happenedIn(work: WorkFacts, told: readonly StepTold[]): Map<string, Happened> {
  const happened = new Map<string, Happened>()
  const [first] = told
  if (!first) return happened
  const minutesAt = minutesOf(work, Date.parse(first.at))
  for (const { activityId, state, at, person } of told) {
    const personId = person === '' ? null : person
    const minutes = minutesAt(Date.parse(at))
    const before = happened.get(activityId)
    if (state === 'open') happened.delete(activityId)
    else if (state === 'started')
      happened.set(activityId, { state: 'running', startMin: minutes, endMin: null, personId })
    else {
      // Told once more, it has begun when it first had.
      const startMin = before ? Math.min(before.startMin, minutes) : minutes
      happened.set(activityId, { state, startMin, endMin: minutes, personId })
    }
  }
  return happened
}

export interface RecordedTime {
  readonly kind: ActivityKind
  /** Lengths that were recorded; of them the newest count. */
  readonly count: number
  readonly leastMin: number
  readonly usualMin: number
  readonly worstMin: number
}

/** Newest lengths of a kind that count. */
const NEWEST = 20

const isKind = (text: string): text is ActivityKind => text in KINDS

/** Least, median and worst of the lengths that were recorded of each kind, whole minutes. */
export function recordedTimes(told: readonly StepTold[]): RecordedTime[] {
  const begun = new Map<string, number>()
  const lengths = new Map<ActivityKind, number[]>()
  for (const { activityId, state, at } of told) {
    const startMs = begun.get(activityId)
    if (state === 'started') begun.set(activityId, Date.parse(at))
    else begun.delete(activityId)
    const { kind } = readActivityId(activityId)
    if (state !== 'done' || startMs === undefined || !isKind(kind)) continue
    const minutes = Math.max(0, Math.round((Date.parse(at) - startMs) / 60_000))
    lengths.set(kind, [...(lengths.get(kind) ?? []), minutes])
  }
  return [...lengths].map(([kind, all]) => {
    const newest = all.slice(-NEWEST).sort((one, other) => one - other)
    const middle = Math.floor(newest.length / 2)
    const upper = newest[middle] ?? 0
    const lower = newest.length % 2 === 0 ? (newest[middle - 1] ?? upper) : upper
    return {
      kind,
      count: all.length,
      leastMin: newest[0] ?? 0,
      usualMin: Math.round((lower + upper) / 2),
      worstMin: newest.at(-1) ?? 0,
    }
  })
}
