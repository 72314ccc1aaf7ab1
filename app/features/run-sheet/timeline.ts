import { DAY } from '#core/queries'
import { isTimed, runsOf, type TimedRow, type Timetable, type TimetableRow } from '#core/schedule'

// The days of a schedule as strips: one lane a person, one for waits.

/** What stands in a lane: steps that follow each other and belong together are one block. */
export interface Block {
  readonly key: string
  readonly rows: readonly TimedRow[]
  readonly x: number
  readonly width: number
  readonly lane: number
  readonly isWait: boolean
  readonly isCritical: boolean
}

export interface Strip {
  readonly day: number
  readonly blocks: readonly Block[]
  /** On the way from one place to another. */
  readonly journeys: readonly { readonly x: number; readonly width: number; readonly lane: number }[]
  readonly gates: readonly { readonly row: TimetableRow; readonly x: number }[]
  /** Daylight and window, as far as they lie in the strip. */
  readonly window: { readonly x: number; readonly width: number } | null
}

export interface Timeline {
  readonly strips: readonly Strip[]
  /** Minutes of a day at the left and the right edge. */
  readonly fromMin: number
  readonly toMin: number
  /** Hours that are written below. */
  readonly hours: readonly { readonly x: number; readonly hour: number }[]
}

/** Picture units from edge to edge; what is left of `LEFT` has the names. */
export const WIDTH = 920
const LEFT = 96
/** Room for the last hour. */
const RIGHT = 10
const GATES = ['gate-begin', 'gate-keep']

/** From one place to another: what lies between two blocks of one person. */
function journeysOf(blocks: readonly Block[]): { x: number; width: number; lane: number }[] {
  const hands = blocks.filter(({ isWait }) => !isWait)
  return hands.flatMap((block, i) => {
    const before = hands.slice(0, i).findLast(({ lane }) => lane === block.lane)
    const isJourney = before && before.rows.at(-1)?.place !== block.rows[0]?.place
    const from = (before?.x ?? 0) + (before?.width ?? 0)
    return isJourney ? [{ x: from, width: block.x - from, lane: block.lane }] : []
  })
}

/** The minute of a day at a place of the picture. */
export const minuteAtX = ({ fromMin, toMin }: Timeline, x: number): number =>
  fromMin + ((x - LEFT) / (WIDTH - LEFT - RIGHT)) * (toMin - fromMin)

/** @param lanes ids of people, in the order of the lanes; waits come below them */
export function timelineOf({ rows, window }: Timetable, lanes: readonly string[]): Timeline {
  const timed = rows.filter(isTimed)
  const ofDay = (minutes: number) => minutes - Math.floor(minutes / DAY) * DAY
  const days = [...new Set(timed.map(({ startMin }) => Math.floor(startMin / DAY)))].sort((a, b) => a - b)
  const starts = timed.map(({ startMin }) => ofDay(startMin))
  const ends = timed.map(({ startMin, endMin }) => endMin - Math.floor(startMin / DAY) * DAY)
  const fromMin = Math.floor(Math.min(...starts, DAY) / 60) * 60
  const toMin = Math.min(DAY * 1.5, Math.max(fromMin + 60, Math.ceil(Math.max(...ends, 0) / 60) * 60))
  const across = (minutes: number) =>
    LEFT + ((minutes - fromMin) / (toMin - fromMin)) * (WIDTH - LEFT - RIGHT)
  const blockOf = (run: readonly TimedRow[], day: number): Block => {
    const [first, last] = [run[0], run.at(-1)]
    const [from, to] = [(first?.startMin ?? 0) - day * DAY, (last?.endMin ?? 0) - day * DAY]
    const lane = lanes.indexOf(first?.personId ?? '')
    return {
      key: first?.id ?? '',
      rows: run,
      x: across(from),
      width: Math.max(1, across(Math.min(to, toMin)) - across(from)),
      lane: lane < 0 ? lanes.length : lane,
      isWait: first?.personId === null,
      isCritical: run.some(({ isCritical }) => isCritical),
    }
  }
  const strips = days.map((day): Strip => {
    const mine = timed.filter(({ startMin }) => Math.floor(startMin / DAY) === day)
    const [from, to] = [(window?.from ?? 0) - day * DAY, (window?.to ?? 0) - day * DAY]
    const isOpen = window !== null && from < toMin && to > fromMin
    const [left, right] = [across(Math.max(from, fromMin)), across(Math.min(to, toMin))]
    const blocks = runsOf(mine.filter(({ kind }) => !GATES.includes(kind))).map((run) => blockOf(run, day))
    return {
      day,
      blocks,
      journeys: journeysOf(blocks),
      gates: mine
        .filter(({ kind }) => GATES.includes(kind))
        .map((row) => ({ row, x: across(row.startMin - day * DAY) })),
      window: isOpen ? { x: left, width: right - left } : null,
    }
  })
  const count = Math.round((toMin - fromMin) / 60)
  const every = Math.max(1, Math.ceil(count / 12))
  const hours = Array.from({ length: count + 1 }, (_, i) => fromMin / 60 + i)
    .filter((_, i) => i % every === 0)
    .map((hour) => ({ x: across(hour * 60), hour: hour % 24 }))
  return { strips, fromMin, toMin, hours }
}
