// Question: who does what next, if one goes along with the time and gives work to whoever is free?
// Method: parallel schedule generation: of all that could begin about now, by any of those who may do it, what counts
// most is given out: what holds something that others wait for, then what takes it, then what is near and long to the
// end. What it answers is an order and a person for each; laying out serially makes a schedule of it.
// Source: R. Kolisch, European Journal of Operational Research 90 (1996) 320-333, for the parallel scheme.
import { firstFit, firstFitOfAll } from './calendar'
import type { Compiled } from './project'

/** What counts beside the start itself; in minutes of it. */
export interface Urgencies {
  /** How much later than the earliest start another one may be, to be looked at as well. */
  readonly slackMin: number
  /** A minute of travel. */
  readonly travel: number
  /** That something is held until it, or what comes after it, is done. */
  readonly isHeld: number
  /** That it takes something. */
  readonly takes: number
  /** A minute of the longest way to the end of all. */
  readonly left: number
}

/** In which order to lay out, and by whom. */
export interface Orders {
  /** By the index of activities; the least goes first. */
  readonly keys: readonly number[]
  /** Index of the person; -1 for whoever comes first. */
  readonly people: Int16Array
}

/** Key of what has found no time: laid out last, where it is said why. */
export const LAST = 1e9

/** What does not change from one run to the next. */
interface Known {
  readonly compiled: Compiled
  /** By the index of activities: 1 where something is held until it, or what comes after it, is done. */
  readonly held: Uint8Array
  /** Resources that the end of each frees. */
  readonly frees: readonly (readonly number[])[]
}

function knownOf(compiled: Compiled): Known {
  const { holds, next, minutes } = compiled
  const held = new Uint8Array(minutes.length)
  const frees: number[][] = minutes.map(() => [])
  /** Whether a way leads from one to another; what stands on it is held. */
  function leadsTo(i: number, until: number, seen: Map<number, boolean>): boolean {
    const known = seen.get(i)
    if (known !== undefined) return known
    const onward = i === until ? [] : (next[i] ?? []).filter((j) => leadsTo(j, until, seen))
    for (const j of onward) held[j] = 1
    const does = i === until || onward.length > 0
    seen.set(i, does)
    return does
  }
  holds.forEach((own, i) =>
    own.forEach(({ resource, until }) => {
      frees[until]?.push(resource)
      leadsTo(i, until, new Map())
    }),
  )
  return { compiled, held, frees }
}

interface Choice {
  readonly i: number
  readonly person: number
  readonly start: number
}

/** One run of giving out. */
class Dispatch {
  private readonly start: Float64Array
  private readonly people: Int16Array
  private readonly left: number[]
  private readonly readyAt: number[]
  private readonly ready = new Set<number>()
  /** From when on each person is free, and where they are then; -1 for nowhere yet. */
  private readonly freeAt: number[]
  private readonly placeOf: number[]
  /** Of each resource: when each of its places is free; Infinity while that is not known. */
  private readonly room: number[][]
  /** Earliest starts by activity and person, of what is ready. */
  private readonly begins: Float64Array
  /** The earliest of each. */
  private readonly earliest: Float64Array
  /** Minutes by which each counts more than its start says. */
  private readonly urgency: Float64Array

  constructor(
    private readonly known: Known,
    private readonly urgencies: Urgencies,
    more: ArrayLike<number>,
  ) {
    const { minutes, before, notBefore, capacity, project } = known.compiled
    this.start = new Float64Array(minutes.length).fill(NaN)
    this.people = new Int16Array(minutes.length).fill(-1)
    this.left = before.map(({ length }) => length)
    this.readyAt = [...notBefore]
    this.freeAt = project.people.map(() => 0)
    this.placeOf = project.people.map(() => -1)
    this.room = capacity.map((most) => new Array<number>(most).fill(0))
    this.begins = new Float64Array(minutes.length * project.people.length)
    this.earliest = new Float64Array(minutes.length)
    this.urgency = Float64Array.from(minutes, (_, i) => this.urgencyOf(i) + (more[i] ?? 0))
  }

  /** From when on it is ready, and there is room for it. */
  private roomAt(i: number): number {
    let time = this.readyAt[i] ?? 0
    for (const { resource } of this.known.compiled.holds[i] ?? [])
      time = Math.max(time, Math.min(...(this.room[resource] ?? [])))
    return time
  }

  private wayOf(i: number, person: number): number {
    const { places, travelMin } = this.known.compiled
    return travelMin[this.placeOf[person] ?? -1]?.[places[i] ?? 0] ?? 0
  }

  private beginOf(i: number, person: number, roomAt: number): number {
    const { project, limits, minutes } = this.known.compiled
    const from = Math.max(roomAt, (this.freeAt[person] ?? 0) + this.wayOf(i, person))
    if (from === Infinity) return Infinity
    const hours = project.people[person]?.hours ?? []
    const [limit, length] = [limits[i], minutes[i] ?? 0]
    return (limit ? firstFitOfAll([hours, limit], from, length) : firstFit(hours, from, length)) ?? Infinity
  }

  /** @param only the person of whom something changed; null where it may be all */
  private refresh(i: number, only: number | null): void {
    const able = this.known.compiled.able[i]
    if (!able || (only !== null && !able.includes(only))) return
    const first = i * this.freeAt.length
    const roomAt = this.roomAt(i)
    let earliest = Infinity
    for (const person of able) {
      if (only === null || person === only) this.begins[first + person] = this.beginOf(i, person, roomAt)
      earliest = Math.min(earliest, this.begins[first + person] ?? Infinity)
    }
    this.earliest[i] = earliest
  }

  private exchange(resource: number, from: number, to: number): void {
    const room = this.room[resource] ?? []
    const [at, least] = [room.indexOf(from), Math.min(...room)]
    if (at < 0) return
    room[at] = to
    if (Math.min(...room) === least) return
    for (const i of this.ready)
      if (this.known.compiled.holds[i]?.some((hold) => hold.resource === resource)) this.refresh(i, null)
  }

  private settle({ i, person, start }: Choice, end: number): void {
    const { holds, places } = this.known.compiled
    this.ready.delete(i)
    this.start[i] = start
    this.people[i] = person
    for (const { resource } of holds[i] ?? [])
      this.exchange(resource, Math.min(...(this.room[resource] ?? [])), Infinity)
    for (const resource of this.known.frees[i] ?? []) this.exchange(resource, Infinity, end)
    if (person < 0) return
    this.freeAt[person] = Math.max(end, this.freeAt[person] ?? 0)
    this.placeOf[person] = places[i] ?? 0
    for (const j of this.ready) this.refresh(j, person)
  }

  /** Whatever waited for nothing but this. */
  private release(i: number, end: number): void {
    for (const j of this.known.compiled.next[i] ?? []) {
      this.readyAt[j] = Math.max(this.readyAt[j] ?? 0, end)
      this.left[j] = (this.left[j] ?? 0) - 1
      if (this.left[j] === 0) this.makeReady(j)
    }
  }

  private makeReady(i: number): void {
    if (!Number.isNaN(this.start[i])) return
    this.ready.add(i)
    this.refresh(i, null)
  }

  private urgencyOf(i: number): number {
    const { isHeld, takes, left } = this.urgencies
    const { holds, tail } = this.known.compiled
    const held = this.known.held[i] === 1 ? isHeld : 0
    const taking = held === 0 && (holds[i]?.length ?? 0) > 0 ? takes : 0
    return held + taking + left * (tail[i] ?? 0)
  }

  /** What needs nobody, at once; else what counts most of all that could begin about now. */
  private choose(): Choice | null {
    const { able, limits, minutes } = this.known.compiled
    let earliest = Infinity
    for (const i of this.ready) {
      if (able[i]) {
        earliest = Math.min(earliest, this.earliest[i] ?? Infinity)
        continue
      }
      const [limit, from] = [limits[i], this.roomAt(i)]
      const start = limit ? firstFit(limit, from, minutes[i] ?? 0) : from
      if (start !== null && start < Infinity) return { i, person: -1, start }
    }
    return earliest < Infinity ? this.best(earliest + this.urgencies.slackMin) : null
  }

  private best(latest: number): Choice | null {
    const { able } = this.known.compiled
    const best = { i: -1, person: -1, start: Infinity }
    let least = Infinity
    for (const i of this.ready) {
      if ((this.earliest[i] ?? Infinity) > latest) continue
      for (const person of able[i] ?? []) {
        const start = this.begins[i * this.freeAt.length + person] ?? Infinity
        if (start > latest) continue
        const cost = start + this.urgencies.travel * this.wayOf(i, person) - (this.urgency[i] ?? 0)
        if (cost >= least) continue
        least = cost
        Object.assign(best, { i, person, start })
      }
    }
    return best.i < 0 ? null : best
  }

  run(): Orders {
    const { project, before, minutes } = this.known.compiled
    before.forEach((earlier, i) => earlier.length === 0 && this.makeReady(i))
    project.activities.forEach(({ id }, i) => {
      const happened = project.happened.get(id)
      if (!happened) return
      const end = happened.endMin ?? Math.max(project.nowMin, happened.startMin + (minutes[i] ?? 0))
      const person = project.people.findIndex((each) => each.id === happened.personId)
      this.settle({ i, person, start: happened.startMin }, end)
      if (happened.state !== 'failed') this.release(i, end)
    })
    for (let choice = this.choose(); choice; choice = this.choose()) {
      const end = choice.start + (minutes[choice.i] ?? 0)
      this.settle(choice, end)
      this.release(choice.i, end)
    }
    return { keys: Array.from(this.start, (time) => (Number.isNaN(time) ? LAST : time)), people: this.people }
  }
}

/**
 * Gives out the work of one project, again and again.
 * @returns one run; `more` is how many minutes each activity counts more than the rest says, by its index
 */
export function dispatcher(compiled: Compiled): (urgencies: Urgencies, more: ArrayLike<number>) => Orders {
  const known = knownOf(compiled)
  return (urgencies, more) => new Dispatch(known, urgencies, more).run()
}
