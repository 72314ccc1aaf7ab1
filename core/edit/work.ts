// Question: how is a computed run sheet adjusted, and what goes with a person who goes?
// Method: one adjustment for each activity; one that wishes for nothing any more is taken away.
// Source: none.
import type { Adjustment, Draft, PersonId, WorkFacts } from '#core/schema'

type Wish = Partial<Omit<Adjustment, 'activityId'>>

const NOTHING: Required<Wish> = { personId: null, notBeforeMin: null, isLeftOut: false }

/** What is wished of an activity. */
export const adjustmentOf = (work: WorkFacts, activityId: string): Required<Wish> =>
  work.adjustments.find((each) => each.activityId === activityId) ?? NOTHING

/** Lays a wish on an activity; beside what is wished of it already. */
export function adjust(work: Draft<WorkFacts>, activityId: string, wish: Wish): void {
  const { personId, notBeforeMin, isLeftOut } = { ...adjustmentOf(work, activityId), ...wish }
  const others = work.adjustments.filter((each) => each.activityId !== activityId)
  const isWish = personId !== null || notBeforeMin !== null || isLeftOut
  work.adjustments = isWish ? [...others, { activityId, personId, notBeforeMin, isLeftOut }] : others
}

/** Takes a person away; whatever was to be done by that person may be done by anybody. */
export function removePerson(work: Draft<WorkFacts>, personId: PersonId): void {
  work.people = work.people.filter(({ id }) => id !== personId)
  for (const { activityId, personId: wished } of [...work.adjustments])
    if (wished === personId) adjust(work, activityId, { personId: null })
}

/** Own durations of a kind; null for practice again. */
export function setDuration(
  work: Draft<WorkFacts>,
  kind: WorkFacts['durations'][number]['kind'],
  minutes: readonly [least: number, usual: number, worst: number] | null,
): void {
  const others = work.durations.filter((each) => each.kind !== kind)
  const own = minutes && { kind, leastMin: minutes[0], usualMin: minutes[1], worstMin: minutes[2] }
  work.durations = own ? [...others, own] : others
}
