// Question: which steps of a person belong together, as one would say them?
// Method: what follows without a pause at one place: on one thing, of one kind, or all that is done on the bench.
// Source: none.
import type { TimetableRow } from './timetable'

export type TimedRow = TimetableRow & { readonly startMin: number; readonly endMin: number }
export const isTimed = (row: TimetableRow): row is TimedRow => row.startMin !== null && row.endMin !== null

/** So short a pause does not part what belongs together, minutes. */
const PAUSE_MIN = 8

const goesOn = (last: TimedRow, next: TimedRow): boolean =>
  next.startMin - last.endMin <= PAUSE_MIN &&
  last.place === next.place &&
  (last.kind === next.kind ||
    (last.about === next.about && next.about !== '') ||
    (last.group === next.group && (next.group === 'bench' || next.group === 'before')))

/**
 * Rows by the same person that belong together; a wait is by itself.
 * @param rows by their starts
 */
export function runsOf(rows: readonly TimedRow[]): TimedRow[][] {
  const runs: TimedRow[][] = []
  const open = new Map<string, TimedRow[]>()
  for (const row of rows) {
    const lane = row.personId
    const run = lane === null ? undefined : open.get(lane)
    const last = run?.at(-1)
    if (run && last && goesOn(last, row)) run.push(row)
    else {
      const next = [row]
      runs.push(next)
      if (lane !== null) open.set(lane, next)
    }
  }
  return runs
}
