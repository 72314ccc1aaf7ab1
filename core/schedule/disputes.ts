// Question: where did two people tell different things of one step, without knowing of each other?
// Method: each record says which record of the step its teller had seen last; a later record by somebody else that
// had not seen an earlier one, and says otherwise, asks which of them holds, until a newer record has seen both.
// Source: none.

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
 * @param records in the order in which the server has them; those that wait to be sent last
 */
export function disputesOf<T extends ToldRecord>(records: readonly T[]): Map<string, Dispute<T>> {
  const disputes = new Map<string, Dispute<T>>()
  const newest = new Map<string, T>()
  for (const later of records) {
    const earlier = newest.get(later.activityId)
    newest.set(later.activityId, later)
    disputes.delete(later.activityId)
    if (!earlier || earlier.id <= later.knows || earlier.who === later.who) continue
    if (differs(earlier, later)) disputes.set(later.activityId, { earlier, later })
  }
  return disputes
}
