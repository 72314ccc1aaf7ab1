// Question: what does a schedule say, in plain words for a page, a print or a calendar?
// Method: each activity with its time, who does it, what it waited for last, and whether it holds up the end.
// Source: none beyond those of the parts.
import type { ActivityKind, PersonId } from '#core/schema'
import type { Activity } from './activity'
import type { Interval } from './calendar'
import { arcsOf, chainTo, causeOf } from './chain'
import type { Compiled, Happened, Project } from './project'
import type { Found } from './search'
import type { Unplaced } from './serial'

/** An activity with its time. */
export interface TimetableRow extends Omit<Activity, 'takes' | 'frees'> {
  /** Minutes from midnight of the first day; null where it has no time. */
  readonly startMin: number | null
  readonly endMin: number | null
  readonly personId: PersonId | null
  /** Why it has no time. */
  readonly unplaced: Unplaced | null
  /** What it waited for last; null for nothing. */
  readonly waitsFor: string | null
  readonly isCritical: boolean
  readonly state: Happened['state'] | 'planned'
}

export interface Timetable {
  /** By their starts; what has no time comes last. */
  readonly rows: readonly TimetableRow[]
  readonly endMin: number
  readonly leastEndMin: number
  readonly isProven: boolean
  readonly window: Interval | null
  /** Last moment to turn back, so that the way back still fits into the window; null where there is no window. */
  readonly turnBackMin: number | null
  /** Travel of all people together, minutes. */
  readonly travelMin: number
}

const worst = (activities: readonly Activity[], kind: ActivityKind): number =>
  Math.max(0, ...activities.filter((each) => each.kind === kind).map(({ duration }) => duration.worstMin))

/** The old line back in place, at its worst: what was unplugged and connected, once more, and the wait for it. */
export const backMinutes = (activities: readonly Activity[]): number =>
  worst(activities, 'unplug') + worst(activities, 'connect-uplink') + worst(activities, 'wait-uplink')

export function turnBackMin(project: Project): number | null {
  if (!project.window) return null
  const back = backMinutes(project.activities)
  return back === 0 ? null : project.window.to - back
}

const known = (time: number | undefined): number | null =>
  time === undefined || Number.isNaN(time) ? null : time

/** A schedule as rows. */
export function timetableOf(compiled: Compiled, { layout, leastEndMin, isProven }: Found): Timetable {
  const { project } = compiled
  const arcs = arcsOf(compiled, layout)
  const critical = new Set(chainTo(compiled, arcs, layout))
  const rows = project.activities.map((activity, i): TimetableRow => {
    const startMin = known(layout.start[i])
    const cause = startMin === null ? -1 : causeOf(i, compiled, arcs, layout.end)
    const { takes: _takes, frees: _frees, ...rest } = activity
    return {
      ...rest,
      startMin,
      endMin: known(layout.end[i]),
      personId: project.people[layout.person[i] ?? -1]?.id ?? null,
      unplaced: layout.unplaced.get(i) ?? null,
      waitsFor: project.activities[cause]?.id ?? null,
      isCritical: critical.has(i),
      state: project.happened.get(activity.id)?.state ?? 'planned',
    }
  })
  const time = (row: TimetableRow) => row.startMin ?? Infinity
  return {
    rows: rows.sort((first, second) => time(first) - time(second) || 0),
    endMin: layout.endMin,
    leastEndMin,
    isProven,
    window: project.window,
    turnBackMin: turnBackMin(project),
    travelMin: arcs.travelMin.reduce((sum, minutes) => sum + minutes, 0),
  }
}
