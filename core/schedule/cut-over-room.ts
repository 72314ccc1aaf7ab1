// Question: is there room for the cut-over in its window, and for the way back?
// Method: whatever is limited to the window, one after another as it has to be, at usual speed: no schedule is shorter.
// The way back at its worst, from where one knows whether it works.
// Source: longest path of a network of activities (critical path method), J. E. Kelley, Operations Research 9 (1961)
// 296.
import type { Plan } from '#core/schema'
import type { Activity } from './activity'
import { activitiesOf } from './activities'
import { hoursOf, windowOf } from './calendar'
import { backMinutes } from './timetable'

export interface CutOverRoom {
  readonly windowMin: number
  /** Least time for all that is limited to the window, with nobody kept waiting. */
  readonly neededMin: number
  /** What the way back takes then, at its worst. */
  readonly backMin: number
  /** Somebody works at some time of the window; true while nobody is named. */
  readonly isStaffed: boolean
  /** The window ends before the first day of work. */
  readonly isOver: boolean
}

/** The longest chain of some activities, each after those among them that it waits for, minutes. */
function longestMin(activities: readonly Activity[]): number {
  const byId = new Map(activities.map((activity) => [activity.id, activity]))
  const ends = new Map<string, number>()
  const endOf = (id: string): number => {
    const activity = byId.get(id)
    if (!activity) return 0
    const known = ends.get(id)
    if (known !== undefined) return known
    const end = Math.max(0, ...activity.after.map(endOf)) + activity.duration.usualMin
    ends.set(id, end)
    return end
  }
  return Math.max(0, ...activities.map(({ id }) => endOf(id)))
}

/** Null where no window is agreed, no first day to count from, or nothing is limited to it. */
export function cutOverRoom(plan: Plan): CutOverRoom | null {
  const { work } = plan
  const window = windowOf(work)
  const activities = window ? activitiesOf(plan) : []
  const limited = activities.filter(({ limit }) => limit === 'window')
  if (!window || limited.length === 0) return null
  const isThere = (person: (typeof work.people)[number]) =>
    hoursOf(person, work.startDate).some(({ from, to }) => from < window.to && to > window.from)
  return {
    windowMin: window.to - window.from,
    neededMin: longestMin(limited),
    backMin: backMinutes(activities),
    isStaffed: work.people.length === 0 || work.people.some(isThere),
    isOver: window.to <= 0,
  }
}
