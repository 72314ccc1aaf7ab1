// Question: which schedule ends earliest of all?
// Method: branch and bound over who does what next. Each activity is put at its earliest start that is not before the
// start of the one laid out last: sorted by its starts an optimal schedule is one of these, since what was laid out
// before ends no later than there. A branch is left where the longest way from what is open, or the work that is left
// for the people, cannot end before the best known.
// Source: after J. H. Patterson, Management Science 30 (1984) 854-867, with critical-path and capacity bounds.
import { firstFitOfAll } from './calendar'
import type { Compiled } from './project'
import type { Layout } from './serial'

/** More than so many activities are not tried exactly. */
const MOST_ACTIVITIES = 30
/** Branches after which the search gives up: the best so far is kept, unproven. */
const MOST_BRANCHES = 300_000

/** Whether a project is small and plain enough: nothing has happened, and nobody is asked to wait. */
export const isExact = ({ minutes, project }: Compiled): boolean =>
  minutes.length > 0 && minutes.length <= MOST_ACTIVITIES && project.happened.size === 0

interface Exact {
  readonly layout: Layout
  readonly isProven: boolean
}

interface Task {
  readonly start: number
  readonly end: number
  readonly person: number
}

/** The state of one branch; what is undone is undone in the reverse order. */
class Branches {
  private readonly tasks: (Task | null)[]
  private readonly order: number[] = []
  private branches = 0
  private bestEnd: number
  private best: readonly (Task | null)[] | null = null

  constructor(
    private readonly compiled: Compiled,
    known: Layout,
  ) {
    this.tasks = compiled.minutes.map(() => null)
    this.bestEnd = known.endMin
  }

  private isOpen(resource: number, holder: number, until: number): boolean {
    return this.tasks[holder] !== null && this.tasks[until] === null && resource >= 0
  }

  /** When a resource that is taken has room again; null while somebody who holds it has no end yet. */
  private roomAfter(i: number, from: number): number | null {
    const { holds, capacity } = this.compiled
    let time = from
    for (const { resource } of holds[i] ?? []) {
      const ends: number[] = []
      holds.forEach((own, holder) =>
        own.forEach((hold) => {
          if (hold.resource !== resource || this.tasks[holder] === null) return
          ends.push(this.isOpen(resource, holder, hold.until) ? Infinity : (this.tasks[hold.until]?.end ?? 0))
        }),
      )
      ends.sort((a, b) => b - a)
      const busy = ends[(capacity[resource] ?? 1) - 1]
      if (busy === Infinity) return null
      time = Math.max(time, busy ?? 0)
    }
    return time
  }

  /** Start after whatever a person did before, with the way there; nothing is put into gaps. */
  private afterPerson(person: number, place: string, from: number): number {
    const { project } = this.compiled
    return this.order.reduce((time, i) => {
      const task = this.tasks[i]
      if (task?.person !== person) return time
      return Math.max(time, task.end + project.travelMin(project.activities[i]?.place ?? '', place))
    }, from)
  }

  private startOf(i: number, person: number, from: number): number | null {
    const { project, limits, minutes } = this.compiled
    const room = this.roomAfter(i, from)
    if (room === null) return null
    const free = person < 0 ? room : this.afterPerson(person, project.activities[i]?.place ?? '', room)
    const lists = [limits[i], person < 0 ? null : project.people[person]?.hours].filter((list) => !!list)
    return firstFitOfAll(lists, free, minutes[i] ?? 0)
  }

  /** No completion of this branch ends before. */
  private leastEnd(latest: number): number {
    const { minutes, before, able, notBefore, tail, project } = this.compiled
    const ends: number[] = []
    let least = latest
    let work = 0
    minutes.forEach((length, i) => {
      const task = this.tasks[i]
      if (task) {
        ends[i] = task.end
        least = Math.max(least, task.end)
        return
      }
      const from = (before[i] ?? []).reduce(
        (most, j) => Math.max(most, ends[j] ?? 0),
        Math.max(latest, notBefore[i] ?? 0),
      )
      ends[i] = from + length
      least = Math.max(least, from + (tail[i] ?? 0))
      if (able[i]) work += length
    })
    const free = project.people.map((_, person) => this.afterPerson(person, '', latest))
    const sum = free.reduce((total, time) => total + time, work)
    return work === 0 || free.length === 0 ? least : Math.max(least, Math.ceil(sum / free.length))
  }

  private choices(latest: number): { readonly i: number; readonly task: Task }[] {
    const { minutes, before, able, notBefore } = this.compiled
    const out: { i: number; task: Task }[] = []
    minutes.forEach((length, i) => {
      if (this.tasks[i] !== null || (before[i] ?? []).some((j) => this.tasks[j] === null)) return
      const from = (before[i] ?? []).reduce(
        (most, j) => Math.max(most, this.tasks[j]?.end ?? 0),
        Math.max(latest, notBefore[i] ?? 0),
      )
      for (const person of able[i] ?? [-1]) {
        const start = this.startOf(i, person, from)
        if (start !== null) out.push({ i, task: { start, end: start + length, person } })
      }
    })
    const urgency = ({ i, task }: { i: number; task: Task }) =>
      task.start - (this.compiled.tail[i] ?? 0) / 1e6
    return out.sort((a, b) => urgency(a) - urgency(b))
  }

  private go(latest: number): void {
    if (this.branches++ >= MOST_BRANCHES || this.leastEnd(latest) >= this.bestEnd) return
    if (this.order.length === this.tasks.length) {
      this.best = [...this.tasks]
      this.bestEnd = Math.max(...this.tasks.map((task) => task?.end ?? 0))
      return
    }
    for (const { i, task } of this.choices(latest)) {
      this.tasks[i] = task
      this.order.push(i)
      this.go(task.start)
      this.order.pop()
      this.tasks[i] = null
    }
  }

  solve(): { readonly tasks: readonly (Task | null)[] | null; readonly isProven: boolean } {
    this.go(0)
    return { tasks: this.best, isProven: this.branches < MOST_BRANCHES }
  }
}

/**
 * The schedule that ends earliest, found among all.
 * @param known one that lays out everything, to be beaten
 */
export function solveExactly(compiled: Compiled, known: Layout): Exact {
  const { tasks, isProven } = new Branches(compiled, known).solve()
  if (!tasks) return { layout: known, isProven }
  return {
    layout: {
      start: Float64Array.from(tasks, (task) => task?.start ?? NaN),
      end: Float64Array.from(tasks, (task) => task?.end ?? NaN),
      person: Int16Array.from(tasks, (task) => task?.person ?? -1),
      unplaced: new Map(),
      endMin: Math.max(...tasks.map((task) => task?.end ?? 0)),
      tieBreakMin: 0,
    },
    isProven,
  }
}
