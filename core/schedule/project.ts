// Question: what exactly is to be laid out in time: which activities, people, things and hours?
// Method: the plan's activities with what limits each, as numbers that a schedule is made of at once.
// Source: terms of the resource-constrained project scheduling problem (P. Brucker et al., European Journal of
// Operational Research 112 (1999) 3-41).
import type { Activity } from './activity'
import type { Interval } from './calendar'

export interface Worker {
  readonly id: string
  readonly skills: readonly string[]
  readonly hours: readonly Interval[]
}

/** What has happened to an activity. */
export interface Happened {
  readonly state: 'running' | 'done' | 'failed' | 'skipped'
  readonly startMin: number
  /** Null while it runs. */
  readonly endMin: number | null
  readonly personId: string | null
}

export interface Project {
  /** In an order that breaks no precedence. */
  readonly activities: readonly Activity[]
  readonly people: readonly Worker[]
  /** How many may hold a resource at once; 1 where it is not named. */
  readonly capacities: ReadonlyMap<string, number>
  readonly travelMin: (from: string, to: string) => number
  /** Null where daylight is not judged. */
  readonly daylight: readonly Interval[] | null
  /** Null where any time will do. */
  readonly window: Interval | null
  /** Wishes by activity: who, and not before. */
  readonly wishes: ReadonlyMap<
    string,
    { readonly personId: string | null; readonly notBeforeMin: number | null }
  >
  readonly happened: ReadonlyMap<string, Happened>
  /** Nothing that has not begun begins before. */
  readonly nowMin: number
}

/** One that holds a resource from its start until the activity that frees it has ended. */
export interface Hold {
  readonly resource: number
  /** Index of the activity that frees it. */
  readonly until: number
}

/** A project as numbers, by the index of its activities. */
export interface Compiled {
  readonly project: Project
  readonly minutes: readonly number[]
  /** Place of each, by its index in `travelMin`. */
  readonly places: readonly number[]
  /** Minutes from a place to another. */
  readonly travelMin: readonly (readonly number[])[]
  readonly before: readonly (readonly number[])[]
  readonly next: readonly (readonly number[])[]
  /** People who may do it; null for one that needs nobody. */
  readonly able: readonly (readonly number[] | null)[]
  readonly holds: readonly (readonly Hold[])[]
  readonly capacity: readonly number[]
  readonly limits: readonly (readonly Interval[] | null)[]
  readonly notBefore: readonly number[]
  /** Longest way from its start to the end of all, minutes. */
  readonly tail: readonly number[]
}

const NOBODY: readonly number[] = []

function ableFor(project: Project, activity: Activity): readonly number[] | null {
  if (!activity.hands) return null
  const wished = project.wishes.get(activity.id)?.personId ?? null
  const able = project.people.flatMap(({ id, skills }, i) =>
    activity.skills.every((skill) => skills.includes(skill)) && (wished === null || wished === id) ? [i] : [],
  )
  return able.length > 0 ? able : NOBODY
}

function holdsOf(activities: readonly Activity[], resources: ReadonlyMap<string, number>): Hold[][] {
  const frees = new Map<string, number>()
  activities.forEach(({ about, frees: freed }, i) =>
    freed.forEach((resource) => frees.set(`${about} ${resource}`, i)),
  )
  return activities.map(({ about, takes }) =>
    takes.flatMap((name): Hold[] => {
      const [resource, until] = [resources.get(name), frees.get(`${about} ${name}`)]
      return resource === undefined || until === undefined ? [] : [{ resource, until }]
    }),
  )
}

/** Longest ways to the end, by the precedence alone. */
export function tailsOf(minutes: readonly number[], next: readonly (readonly number[])[]): number[] {
  const tail = new Array<number>(minutes.length).fill(0)
  for (let i = minutes.length - 1; i >= 0; i--)
    tail[i] = (minutes[i] ?? 0) + (next[i] ?? []).reduce((most, j) => Math.max(most, tail[j] ?? 0), 0)
  return tail
}

export function compile(project: Project): Compiled {
  const { activities } = project
  const indexOf = new Map(activities.map(({ id }, i) => [id, i]))
  const before = activities.map(({ after }) => after.flatMap((id) => indexOf.get(id) ?? []))
  const next: number[][] = activities.map(() => [])
  before.forEach((earlier, i) => earlier.forEach((j) => next[j]?.push(i)))
  const names = [...new Set(activities.flatMap(({ takes }) => takes))]
  const places = [...new Set(activities.map(({ place }) => place))]
  const minutes = activities.map(({ duration }) => duration.usualMin)
  const window = project.window && [project.window]
  return {
    project,
    minutes,
    places: activities.map(({ place }) => places.indexOf(place)),
    travelMin: places.map((from) => places.map((to) => project.travelMin(from, to))),
    before,
    next,
    able: activities.map((activity) => ableFor(project, activity)),
    holds: holdsOf(activities, new Map(names.map((name, i) => [name, i]))),
    capacity: names.map((name) => project.capacities.get(name) ?? 1),
    limits: activities.map(({ limit }) => {
      if (limit === 'daylight') return project.daylight
      return limit === 'window' ? window : null
    }),
    notBefore: activities.map(({ id }) =>
      Math.max(project.nowMin, project.wishes.get(id)?.notBeforeMin ?? 0),
    ),
    tail: tailsOf(minutes, next),
  }
}
