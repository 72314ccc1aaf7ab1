// Question: below which time can no schedule come, by what can be held by only so many at once?
// Method: every hold lasts at least as long as the longest way through it. All of them together need no more than the
// working time of all places, from the earliest start of what takes one to the latest end of what frees it. A pause in
// everybody's hours hides no more than the longest wait.
// Source: bound of parallel machines with heads and tails, J. Carlier, European Journal of Operational Research 29
// (1987) 298-306.
import { leastWhere } from '#core/util'
import { joined, minutesUntil, type Interval } from './calendar'
import { tailsOf, type Compiled } from './project'

interface Span {
  /** Earliest start of what takes, minutes from midnight of the first day. */
  readonly head: number
  readonly minutes: number
  /** Longest way from what frees it to the end of all. */
  readonly tail: number
}

/** Longest way from the start of one to the end of another; -Infinity where none leads there. */
function longestWay(next: Compiled['next'], lengths: readonly number[], from: number, to: number): number {
  const ways: number[] = []
  for (let i = to; i >= from; i--) {
    const onward = (next[i] ?? []).reduce((most, j) => Math.max(most, ways[j] ?? -Infinity), -Infinity)
    ways[i] = (lengths[i] ?? 0) + (i === to ? 0 : onward)
  }
  return ways[from] ?? -Infinity
}

/**
 * Holds of a resource that have not begun, and come to an end.
 * None where one begins by itself: it could do so while nobody is at work, and hide more than one wait in a pause.
 */
function spansOf(compiled: Compiled, resource: number, freeEnds: readonly number[]): Span[] {
  const { project, holds, minutes, next, able } = compiled
  if (holds.some((own, i) => !able[i] && own.some((each) => each.resource === resource))) return []
  const isLeft = (i: number) =>
    !project.happened.has(project.activities[i]?.id ?? '') && freeEnds[i] !== Infinity
  const lengths = minutes.map((length, i) => (isLeft(i) ? length : 0))
  const tail = tailsOf(lengths, next)
  return holds.flatMap((own, i) => {
    const hold = own.find((each) => each.resource === resource)
    if (!hold || !isLeft(i) || !isLeft(hold.until)) return []
    return {
      head: (freeEnds[i] ?? 0) - (minutes[i] ?? 0),
      minutes: Math.max(0, longestWay(next, lengths, i, hold.until)),
      tail: (tail[hold.until] ?? 0) - (minutes[hold.until] ?? 0),
    }
  })
}

/** Longest row of waits, one behind the other: so much at most goes on while nobody is at work. */
function longestWait({ able, next, minutes }: Compiled): number {
  const waits: number[] = []
  for (let i = minutes.length - 1; i >= 0; i--)
    waits[i] = able[i] ? 0 : (minutes[i] ?? 0) + Math.max(0, ...(next[i] ?? []).map((j) => waits[j] ?? 0))
  return Math.max(0, ...waits)
}

/** Working time up to a time, with what goes on by itself in each pause before. */
function timeUntil(work: readonly Interval[], wait: number, time: number): number {
  const pauses = work.slice(1).map(({ from }, i) => ({ from: work[i]?.to ?? 0, to: from }))
  const hidden = pauses.reduce(
    (sum, { from, to }) => sum + Math.min(wait, Math.max(0, Math.min(time, to) - from)),
    0,
  )
  return minutesUntil(work, time) + hidden
}

const sorted = (numbers: readonly number[]) => numbers.toSorted((one, other) => one - other)

/**
 * No schedule of all that can be laid out ends before, minutes from midnight of the first day; 0 where nothing is held.
 * @param freeEnds earliest end of each activity if nobody were ever busy elsewhere; Infinity for never
 */
export function holdBound(compiled: Compiled, freeEnds: readonly number[]): number {
  const { project, capacity } = compiled
  const hours = project.people.flatMap((person) => person.hours)
  const work = joined(hours.toSorted((one, other) => one.from - other.from))
  const wait = longestWait(compiled)
  const horizon = work.at(-1)?.to ?? 0
  const bounds = capacity.map((most, resource) => {
    const spans = spansOf(compiled, resource, freeEnds)
    const needed = spans.reduce((sum, { minutes }) => sum + minutes, 0)
    const heads = sorted(spans.map(({ head }) => head)).slice(0, most)
    const tails = sorted(spans.map(({ tail }) => tail)).slice(0, most)
    const before = heads.map((head) => timeUntil(work, wait, head))
    const room = (end: number) =>
      tails.reduce(
        (sum, tail, k) => sum + Math.max(0, timeUntil(work, wait, end - tail) - (before[k] ?? 0)),
        0,
      )
    return needed === 0 || room(horizon) < needed
      ? 0
      : leastWhere(project.nowMin, horizon, (end) => room(end) >= needed)
  })
  return Math.max(0, ...bounds)
}
