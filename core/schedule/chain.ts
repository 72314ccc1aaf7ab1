// Question: what does each activity of a schedule wait for, and which chain of them holds up the end?
// Method: of its predecessors, of what its person did before, and of whoever freed what it takes, the one that ended
// last; from the last end back to the beginning.
// Source: the critical chain of resource-constrained schedules, as in E. Demeulemeester and W. Herroelen, Project
// Scheduling: A Research Handbook (2002), chapter 6.
import type { Compiled } from './project'
import type { Layout } from './serial'

/** What stands before an activity in a schedule, beyond its predecessors, by index. */
export interface Arcs {
  /** The person's activity before it; -1 for none. */
  readonly personBefore: Int32Array
  /** Way from there, minutes. */
  readonly travelMin: Float64Array
  /** Those whose end freed what it takes. */
  readonly freedBy: readonly (readonly number[])[]
  /** Indices of all that is laid out, by their starts. */
  readonly order: readonly number[]
}

/** Who had to free a resource before each of its holders, in the order of their starts. */
function freedBefore({ holds, capacity }: Compiled, order: readonly number[], { end }: Layout): number[][] {
  const freed: number[][] = holds.map(() => [])
  capacity.forEach((most, resource) => {
    const untils = order.flatMap((i) => {
      const hold = (holds[i] ?? []).find((each) => each.resource === resource)
      return hold ? [{ i, until: hold.until }] : []
    })
    untils.forEach(({ i }, place) => {
      if (place < most) return
      const earlier = untils.slice(0, place).map(({ until }) => until)
      const byEnd = earlier.sort((a, b) => (end[a] ?? 0) - (end[b] ?? 0))
      const last = byEnd[place - most]
      if (last !== undefined) freed[i]?.push(last)
    })
  })
  return freed
}

export function arcsOf(compiled: Compiled, layout: Layout): Arcs {
  const { project, minutes } = compiled
  const order = minutes
    .map((_, i) => i)
    .filter((i) => !Number.isNaN(layout.start[i]))
    .sort((a, b) => (layout.start[a] ?? 0) - (layout.start[b] ?? 0) || a - b)
  const personBefore = new Int32Array(minutes.length).fill(-1)
  const travelMin = new Float64Array(minutes.length)
  const last = new Map<number, number>()
  const placeOf = (i: number) => project.activities[i]?.place ?? ''
  for (const i of order) {
    const person = layout.person[i] ?? -1
    if (person < 0) continue
    const before = last.get(person)
    if (before !== undefined) {
      personBefore[i] = before
      travelMin[i] = project.travelMin(placeOf(before), placeOf(i))
    }
    last.set(person, i)
  }
  return { personBefore, travelMin, freedBy: freedBefore(compiled, order, layout), order }
}

/** What an activity waited for last; -1 where it waited for nobody, or for its window to open. */
export function causeOf(
  i: number,
  { before, project }: Compiled,
  arcs: Arcs,
  end: ArrayLike<number>,
): number {
  const person = arcs.personBefore[i] ?? -1
  const causes = [...(before[i] ?? []), ...(person < 0 ? [] : [person]), ...(arcs.freedBy[i] ?? [])]
  const until = (j: number) => (end[j] ?? 0) + (j === person ? (arcs.travelMin[i] ?? 0) : 0)
  const last = causes.reduce((latest, j) => (latest < 0 || until(j) > until(latest) ? j : latest), -1)
  const opensMin = project.activities[i]?.limit === 'window' ? (project.window?.from ?? 0) : 0
  return last >= 0 && until(last) < opensMin ? -1 : last
}

/** The chain that holds up the end, first activity first. */
export function chainTo(
  compiled: Compiled,
  arcs: Arcs,
  { end, endMin }: Pick<Layout, 'end' | 'endMin'>,
): number[] {
  const chain: number[] = []
  let at = arcs.order.findLast((i) => end[i] === endMin) ?? -1
  while (at >= 0) {
    chain.unshift(at)
    at = causeOf(at, compiled, arcs, end)
  }
  return chain
}
