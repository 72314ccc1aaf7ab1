// Question: when does each activity begin, and who does it, if they are laid out one after another?
// Method: serial schedule generation: of those whose predecessors are laid out the most urgent is put at its earliest
// start, with whoever can begin it first. What is occupied until a later activity ends is counted as occupied for good
// until that one is laid out, so that nothing can ever wait in a circle for it.
// Source: J. E. Kelley, The critical-path method: resources planning and scheduling, in Muth and Thompson, Industrial
// Scheduling (1963); R. Kolisch, European Journal of Operational Research 90 (1996) 320-333.
import { firstFit } from './calendar'
import { Agenda, Holders } from './occupancy'
import type { Compiled, Happened } from './project'

/** Why an activity has no time. */
export type Unplaced = 'nobody' | 'hours' | 'daylight' | 'window' | 'failed' | 'waits'

/** Times by the index of activities; NaN for what has none. */
export interface Layout {
  readonly start: Float64Array
  readonly end: Float64Array
  /** Index of the person; -1 for nobody. */
  readonly person: Int16Array
  readonly unplaced: ReadonlyMap<number, Unplaced>
  /** Minutes from midnight of the first day; 0 where nothing is laid out. */
  readonly endMin: number
  /**
   * Minutes of travel, half of those that something on the bench is occupied, and the end of the work on site: of two
   * schedules that end together the one with less is better.
   */
  readonly tieBreakMin: number
}

interface Slot {
  readonly start: number
  readonly person: number
  /** Start, and the travel there on top: who is there already is preferred to who comes as early from elsewhere. */
  readonly cost: number
}

/** How much a minute of travel counts beside one of waiting: tried from 0 to 4 on 300 activities, 4 ended first. */
const TRAVEL_WEIGHT = 4

/** One run of laying out. */
class Laying {
  readonly start: Float64Array
  readonly end: Float64Array
  readonly person: Int16Array
  readonly unplaced = new Map<number, Unplaced>()
  private readonly agendas: readonly Agenda[]
  private readonly holders: readonly Holders[]

  constructor(
    private readonly compiled: Compiled,
    private readonly people: ArrayLike<number> | null,
  ) {
    const { project, capacity, minutes, travelMin } = compiled
    this.start = new Float64Array(minutes.length).fill(NaN)
    this.end = new Float64Array(minutes.length).fill(NaN)
    this.person = new Int16Array(minutes.length).fill(-1)
    this.agendas = project.people.map(() => new Agenda(travelMin))
    this.holders = capacity.map((most) => new Holders(most))
  }

  /** Travel of all people together, minutes. */
  get travelMin(): number {
    return this.agendas.reduce((sum, agenda) => sum + agenda.travelledMin, 0)
  }

  /** Whether nothing that it would occupy is held by somebody who has not come to an end yet. */
  canTake(i: number): boolean {
    return (this.compiled.holds[i] ?? []).every(({ resource }) => this.holders[resource]?.hasRoom ?? true)
  }

  private afterHolds(i: number, from: number): number {
    return (this.compiled.holds[i] ?? []).reduce(
      (time, { resource }) => Math.max(time, this.holders[resource]?.earliest(time) ?? time),
      from,
    )
  }

  /** Earliest start that suits limits, holds and, where it needs one, a person. */
  private fit(i: number, from: number, person: number): number | Unplaced {
    const { project, limits, places } = this.compiled
    const activity = project.activities[i]
    const minutes = this.compiled.minutes[i] ?? 0
    const [agenda, worker, limit] = [this.agendas[person], project.people[person], limits[i]]
    let time = from
    for (;;) {
      const before = time
      time = this.afterHolds(i, time)
      if (limit) {
        const fits = firstFit(limit, time, minutes)
        if (fits === null) return activity?.limit === 'window' ? 'window' : 'daylight'
        time = fits
      }
      if (agenda && worker) {
        time = agenda.earliest(time, minutes, places[i] ?? 0)
        const fits = firstFit(worker.hours, time, minutes)
        if (fits === null) return 'hours'
        time = fits
      }
      if (time === before) return time
    }
  }

  /** Who may do it; null where it needs nobody. */
  private ableFor(i: number): readonly number[] | null {
    const chosen = this.people?.[i] ?? -1
    return chosen < 0 ? (this.compiled.able[i] ?? null) : [chosen]
  }

  private slot(i: number, from: number): Slot | Unplaced {
    const able = this.ableFor(i)
    if (!able) {
      const start = this.fit(i, from, -1)
      return typeof start === 'number' ? { start, person: -1, cost: start } : start
    }
    const place = this.compiled.places[i] ?? 0
    let best: Slot | null = null
    let why: Unplaced = 'nobody'
    for (const person of able) {
      const start = this.fit(i, from, person)
      if (typeof start !== 'number') {
        why = start
        continue
      }
      const cost = start + TRAVEL_WEIGHT * (this.agendas[person]?.travelTo(start, place) ?? 0)
      if (!best || cost < best.cost || (cost === best.cost && this.isLess(person, best.person)))
        best = { start, person, cost }
    }
    return best ?? why
  }

  private isLess(person: number, other: number): boolean {
    return (this.agendas[person]?.loadMin ?? 0) < (this.agendas[other]?.loadMin ?? 0)
  }

  private settle(i: number, start: number, end: number, person: number): void {
    const { project, places, holds, capacity } = this.compiled
    this.start[i] = start
    this.end[i] = end
    this.person[i] = person
    this.agendas[person]?.add(start, end, places[i] ?? 0)
    for (const { resource, until } of holds[i] ?? []) this.holders[resource]?.hold(until, start)
    if ((project.activities[i]?.frees.length ?? 0) > 0)
      for (let resource = 0; resource < capacity.length; resource++) this.holders[resource]?.free(i, end)
  }

  /** Leaves one out, with all that waits for it; what has happened all the same has happened. */
  leave(i: number, why: Unplaced): void {
    const { activities, happened } = this.compiled.project
    if (this.unplaced.has(i) || happened.has(activities[i]?.id ?? '')) return
    this.unplaced.set(i, why)
    for (const holder of this.holders) holder.forget(i)
    for (const next of this.compiled.next[i] ?? []) this.leave(next, 'waits')
  }

  /** What has happened stays as it was. */
  keep(i: number, { state, startMin, endMin, personId }: Happened): void {
    const { people, nowMin } = this.compiled.project
    const person = people.findIndex(({ id }) => id === personId)
    const running = Math.max(nowMin, startMin + (this.compiled.minutes[i] ?? 0))
    this.settle(i, startMin, endMin ?? running, person)
    if (state === 'failed') for (const next of this.compiled.next[i] ?? []) this.leave(next, 'waits')
  }

  place(i: number): void {
    const from = (this.compiled.before[i] ?? []).reduce(
      (latest, j) => Math.max(latest, this.end[j] ?? 0),
      this.compiled.notBefore[i] ?? 0,
    )
    const slot = this.slot(i, from)
    if (typeof slot === 'string') return this.leave(i, slot)
    this.settle(i, slot.start, slot.start + (this.compiled.minutes[i] ?? 0), slot.person)
  }
}

/**
 * Lays out every activity.
 * @param keys the least of those that can be laid out goes first; by the index of activities
 * @param people who does each, by the same index, -1 for whoever comes first; null leaves it open for all
 */
export function layOut(
  compiled: Compiled,
  keys: ArrayLike<number>,
  people: ArrayLike<number> | null = null,
): Layout {
  const { project, before, next } = compiled
  const laying = new Laying(compiled, people)
  const left = before.map((earlier) => earlier.length)
  const ready = new Set<number>()
  const settled = (i: number) =>
    (next[i] ?? []).forEach((j) => {
      left[j] = (left[j] ?? 0) - 1
      if (left[j] === 0) ready.add(j)
    })
  before.forEach((earlier, i) => earlier.length === 0 && ready.add(i))
  project.activities.forEach(({ id }, i) => {
    const happened = project.happened.get(id)
    if (happened) laying.keep(i, happened)
  })
  const isSettled = (i: number) => !Number.isNaN(laying.start[i]) || laying.unplaced.has(i)
  const pick = (): number => {
    let best = -1
    for (const i of ready)
      if ((best < 0 || (keys[i] ?? 0) < (keys[best] ?? 0)) && (isSettled(i) || laying.canTake(i))) best = i
    return best
  }
  for (let i = pick(); i >= 0; i = pick()) {
    ready.delete(i)
    if (!isSettled(i)) laying.place(i)
    settled(i)
  }
  for (const i of ready) laying.leave(i, 'waits')
  const { start, end, person, unplaced } = laying
  const ends = Array.from(end, (time) => time || 0)
  const heldMin = compiled.holds.flatMap((own, i) =>
    own.map(({ until }) => (ends[until] ?? 0) - (start[i] || 0)),
  )
  const onSite = ends.filter((_, i) => project.activities[i]?.group === 'site')
  return {
    start,
    end,
    person,
    unplaced,
    endMin: Math.max(0, ...ends),
    tieBreakMin:
      laying.travelMin + heldMin.reduce((sum, minutes) => sum + minutes, 0) / 2 + Math.max(0, ...onSite),
  }
}
