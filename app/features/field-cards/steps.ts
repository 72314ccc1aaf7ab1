import type { TimetableRow } from '#core/schedule'
import type { StepRecord } from '#contracts/api'

// Which steps are whose, and which comes now.

export interface ShownRecord extends StepRecord {
  readonly isWaiting?: boolean
}

/** The newest record of each step that still says something. */
export function newestRecords(records: readonly ShownRecord[]): ReadonlyMap<string, ShownRecord> {
  const newest = new Map<string, ShownRecord>()
  for (const record of records) {
    if (record.state === 'open') newest.delete(record.activityId)
    else newest.set(record.activityId, record)
  }
  return newest
}

const OVER: readonly StepRecord['state'][] = ['done', 'skipped', 'failed']
export const isOver = (record: ShownRecord | undefined): boolean =>
  record !== undefined && OVER.includes(record.state)

/**
 * Steps of one person, with the waits that follow them; of everybody where nobody is chosen.
 * @param personId empty for everybody
 */
export function stepsOf(rows: readonly TimetableRow[], personId: string): TimetableRow[] {
  const mine = new Set(rows.filter((row) => row.personId === personId).map(({ id }) => id))
  const isMine = (row: TimetableRow) =>
    personId === '' ||
    row.personId === personId ||
    (!row.hands && row.after.some((before) => mine.has(before)))
  return rows.filter(isMine)
}

/** What a step still waits for. */
export const blockersOf = (
  row: TimetableRow,
  newest: ReadonlyMap<string, ShownRecord>,
  rows: readonly TimetableRow[],
): TimetableRow[] =>
  row.after.flatMap((id) => {
    const before = rows.find((each) => each.id === id)
    const state = newest.get(id)?.state
    return before && state !== 'done' && state !== 'skipped' ? [before] : []
  })

/** The step to show first: one that runs, else the first that can begin, else the first that is open. */
export function currentStep(
  steps: readonly TimetableRow[],
  newest: ReadonlyMap<string, ShownRecord>,
  rows: readonly TimetableRow[],
): string {
  const open = steps.filter(({ id }) => !isOver(newest.get(id)))
  const running = open.find(({ id, hands }) => hands && newest.get(id)?.state === 'started')
  const ready = open.find((row) => !newest.has(row.id) && blockersOf(row, newest, rows).length === 0)
  return (running ?? ready ?? open[0])?.id ?? ''
}
