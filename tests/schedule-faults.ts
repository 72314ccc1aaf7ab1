import type { Compiled } from '#core/schedule'
import type { Layout } from '../core/schedule/serial'

// What every schedule must keep, checked one after the other in plain words.

interface Placed {
  readonly i: number
  readonly id: string
  readonly from: number
  readonly to: number
  readonly person: number
  readonly place: string
}

interface Stretch {
  readonly from: number
  readonly to: number
}

const isIn = (list: readonly Stretch[], { from, to }: Stretch): boolean =>
  list.some((each) => each.from <= from && to <= each.to)

function placedOf({ project }: Compiled, { start, end, person, unplaced }: Layout): Placed[] {
  return project.activities.flatMap(({ id, place }, i) =>
    unplaced.has(i)
      ? []
      : [{ i, id, place, from: start[i] ?? NaN, to: end[i] ?? NaN, person: person[i] ?? -1 }],
  )
}

function ofPrecedence({ before, minutes }: Compiled, placed: readonly Placed[]): string[] {
  const byIndex = new Map(placed.map((each) => [each.i, each]))
  return placed.flatMap(({ i, id, from, to }) => [
    ...(to - from === minutes[i] ? [] : [`${id} is too short`]),
    ...(before[i] ?? []).flatMap((j) =>
      (byIndex.get(j)?.to ?? Infinity) <= from ? [] : [`${id} before ${byIndex.get(j)?.id}`],
    ),
  ])
}

function ofPeople({ project }: Compiled, placed: readonly Placed[]): string[] {
  return placed.flatMap((each) => {
    const activity = project.activities[each.i]
    const worker = project.people[each.person]
    const inDark =
      activity?.limit === 'daylight' && project.daylight !== null && !isIn(project.daylight, each)
    const dark = inDark ? [`${each.id} in the dark`] : []
    if (activity?.hands !== true) return dark
    if (!worker || !activity.skills.every((skill) => worker.skills.includes(skill)))
      return [...dark, `${each.id} by nobody who may`]
    return isIn(worker.hours, each) ? dark : [...dark, `${each.id} out of hours`]
  })
}

function ofWays({ project }: Compiled, placed: readonly Placed[]): string[] {
  const busy = placed.filter(({ person }) => person >= 0)
  return busy.flatMap((one) =>
    busy
      .filter((other) => {
        const isLater = other.from > one.from || (other.from === one.from && other.i > one.i)
        if (!isLater || other.person !== one.person) return false
        return one.to + project.travelMin(one.place, other.place) > other.from
      })
      .map((other) => `${one.id} and ${other.id} at once`),
  )
}

function ofHolds({ holds, capacity }: Compiled, placed: readonly Placed[]): string[] {
  const byIndex = new Map(placed.map((each) => [each.i, each]))
  return capacity.flatMap((most, resource) => {
    const held = placed.flatMap(({ i, from }) =>
      (holds[i] ?? [])
        .filter((hold) => hold.resource === resource)
        .map(({ until }) => ({ from, to: byIndex.get(until)?.to ?? from })),
    )
    return held
      .filter(({ from }) => held.filter((each) => each.from <= from && from < each.to).length > most)
      .map(() => 'held by too many')
  })
}

/** Everything in which a schedule breaks what it must keep. */
export function scheduleFaults(compiled: Compiled, layout: Layout): string[] {
  const placed = placedOf(compiled, layout)
  return [ofPrecedence, ofPeople, ofWays, ofHolds].flatMap((check) => check(compiled, placed))
}
