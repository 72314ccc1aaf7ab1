// Question: where did two people tell different things of one step, without knowing of each other?
// Method: each record says which record of the step its teller had seen last. The newest record of a step is held
// against the last one by somebody else that its teller had not seen; where they differ, one asks which of them holds,
// until a newer record has seen both.
// Source: none.
import { groupBy } from '#core/util'

export interface ToldRecord {
  readonly id: number
  readonly activityId: string
  readonly state: string
  readonly who: string
  readonly reading: string
  /** Id of the newest record of the step that whoever told this one had seen; 0 where none. */
  readonly knows: number
}

export interface Dispute<T> {
  readonly earlier: T
  readonly later: T
}

const differs = (one: ToldRecord, other: ToldRecord): boolean =>
  one.state !== other.state || one.reading !== other.reading

/**
 * Steps of which two people told different things, by activity.
 * @param records in the order in which the server has them; those that wait to be sent last, with ids below 0
 */
export function disputesOf<T extends ToldRecord>(records: readonly T[]): Map<string, Dispute<T>> {
  const disputes = new Map<string, Dispute<T>>()
  for (const [activityId, told] of groupBy(records, (record) => record.activityId)) {
    const later = told.at(-1)
    const earlier = told.findLast(({ id, who }) => later && who !== later.who && id > later.knows)
    if (later && earlier && differs(earlier, later)) disputes.set(activityId, { earlier, later })
  }
  return disputes
}
