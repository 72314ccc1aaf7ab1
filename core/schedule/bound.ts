// Question: below which time can no schedule come?
// Method: the longest way through the precedence with everybody free at once, each activity in the hours and limits it
// needs; the work of each set of skills against the hours of all who have them; and what can be held by only so many at
// once. The latest of them.
// Source: critical path and capacity bounds of P. Brucker et al., European Journal of Operational Research 112 (1999).
import { leastWhere } from '#core/util'
import { firstFitOfAll, minutesUntil, type Interval } from './calendar'
import type { Activity } from './activity'
import { holdBound } from './hold-bound'
import type { Compiled, Project } from './project'

/** Earliest end of each if nobody were ever busy elsewhere; Infinity for what can never be done. */
function freeEnds(compiled: Compiled): number[] {
  const { project, minutes, before, able, limits, notBefore } = compiled
  const ends: number[] = []
  project.activities.forEach(({ id }, i) => {
    const happened = project.happened.get(id)
    const length = minutes[i] ?? 0
    const from = (before[i] ?? []).reduce((most, j) => Math.max(most, ends[j] ?? 0), notBefore[i] ?? 0)
    const limit = limits[i] ? [limits[i]] : []
    const people = able[i]?.map((person) => [project.people[person]?.hours ?? [], ...limit]) ?? [limit]
    const start = Math.min(...people.map((lists) => firstFitOfAll(lists, from, length) ?? Infinity))
    ends[i] = happened ? (happened.endMin ?? project.nowMin) : start + length
  })
  return ends
}

/** Where both are open. */
function shared(one: readonly Interval[], other: readonly Interval[]): Interval[] {
  return one.flatMap(({ from, to }) =>
    other.flatMap((each) => {
      const both = { from: Math.max(from, each.from), to: Math.min(to, each.to) }
      return both.from < both.to ? [both] : []
    }),
  )
}

type Asks = (activity: Activity) => boolean

/** Least time by which the people who may do a set of activities have hours enough for it. */
function capacityBound(compiled: Compiled, isOne: Asks, limit: readonly Interval[] | null): number {
  const { project, minutes, able } = compiled
  let work = 0
  const people = new Set<number>()
  project.activities.forEach((activity, i) => {
    if (!activity.hands || project.happened.has(activity.id) || !isOne(activity)) return
    work += minutes[i] ?? 0
    able[i]?.forEach((person) => people.add(person))
  })
  if (work === 0 || people.size === 0) return 0
  const hours = [...people].map((person) => {
    const own = project.people[person]?.hours ?? []
    return limit ? shared(own, limit) : own
  })
  const done = (time: number) =>
    hours.reduce((sum, list) => sum + minutesUntil(list, time) - minutesUntil(list, project.nowMin), 0)
  const horizon = Math.max(0, ...hours.flatMap((list) => list.map(({ to }) => to)))
  if (done(horizon) < work) return 0
  return leastWhere(project.nowMin, horizon, (time) => done(time) >= work)
}

/** Sets of activities whose work is held against hours: each skill, by daylight and at all. */
const sets = (project: Project): { readonly isOne: Asks; readonly limit: readonly Interval[] | null }[] =>
  [null, 'mains', 'height', 'driving'].flatMap((skill) => {
    const needs: Asks = ({ skills }) => skill === null || (skills as readonly string[]).includes(skill)
    return [
      { isOne: needs, limit: null },
      { isOne: (activity) => needs(activity) && activity.limit === 'daylight', limit: project.daylight },
    ]
  })

/** No schedule of all that can be laid out ends before, minutes from midnight of the first day. */
export function lowerBound(compiled: Compiled): number {
  const ends = freeEnds(compiled)
  return Math.max(
    0,
    ...ends.filter((end) => Number.isFinite(end)),
    holdBound(compiled, ends),
    ...sets(compiled.project).map(({ isOne, limit }) => capacityBound(compiled, isOne, limit)),
  )
}
