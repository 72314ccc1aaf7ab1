// Question: what is a project when time runs backwards?
// Method: predecessors and followers change places, so do taking and freeing; intervals are turned around the end.
// Source: the backward pass of K. Y. Li and R. J. Willis, European Journal of Operational Research 56 (1992) 370-379.
import type { Interval } from './calendar'
import type { Compiled, Hold } from './project'

const turned = (intervals: readonly Interval[], endMin: number): Interval[] =>
  intervals
    .filter(({ from }) => from < endMin)
    .map(({ from, to }) => ({ from: endMin - to, to: endMin - from }))
    .reverse()

/**
 * The same project from its end; wishes for a time and what has happened do not count there.
 */
export function mirrored(compiled: Compiled, endMin: number): Compiled {
  const { project, minutes, places, travelMin, before, next, able, holds, capacity, limits } = compiled
  const turnedHolds: Hold[][] = minutes.map(() => [])
  holds.forEach((own, i) =>
    own.forEach(({ resource, until }) => turnedHolds[until]?.push({ resource, until: i })),
  )
  return {
    project: {
      ...project,
      people: project.people.map((person) => ({ ...person, hours: turned(person.hours, endMin) })),
      activities: project.activities.map((activity) => ({
        ...activity,
        takes: activity.frees,
        frees: activity.takes,
      })),
      happened: new Map(),
      nowMin: 0,
    },
    minutes,
    places,
    travelMin: travelMin.map((_, to) => travelMin.map((row) => row[to] ?? 0)),
    before: next,
    next: before,
    able,
    holds: turnedHolds,
    capacity,
    limits: limits.map((limit) => limit && turned(limit, endMin)),
    notBefore: minutes.map(() => 0),
    tail: [],
  }
}
