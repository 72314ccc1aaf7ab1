// Question: from when on is a person, or a thing, free?
// Method: what is laid out so far, in order of time; a gap counts where travel to and from it fits as well.
// Source: none; plain look-ups.
import { firstEndingAfter } from './calendar'
import type { Compiled } from './project'

interface Busy {
  readonly start: number
  readonly end: number
  readonly place: number
  /** The latest end up to here: what was told of may overlap. */
  readonly to: number
}

/** What one person does, in order of time. */
export class Agenda {
  private readonly busy: Busy[] = []
  private total = 0

  constructor(private readonly travelMin: Compiled['travelMin']) {}

  private way(from: number, to: number): number {
    return this.travelMin[from]?.[to] ?? 0
  }

  /** Minutes of work so far. */
  get loadMin(): number {
    return this.total
  }

  /** Minutes of travel between what is laid out so far. */
  get travelledMin(): number {
    return this.busy.reduce(
      (sum, each, i) => sum + this.way(this.busy[i - 1]?.place ?? each.place, each.place),
      0,
    )
  }

  /** Travel to a place from whatever is done before a time, minutes. */
  travelTo(start: number, place: number): number {
    const before = this.busy[firstEndingAfter(this.busy, start) - 1]
    return before ? this.way(before.place, place) : 0
  }

  add(start: number, end: number, place: number): void {
    const at = firstEndingAfter(this.busy, start)
    this.busy.splice(at, 0, { start, end, place, to: end })
    this.total += end - start
    for (let i = at; i < this.busy.length; i++) {
      const each = this.busy[i]
      const to = Math.max(each?.end ?? 0, this.busy[i - 1]?.to ?? 0)
      if (!each || (i > at && to === each.to)) return
      this.busy[i] = { ...each, to }
    }
  }

  /** Earliest start, not before a time, of so many minutes at a place. */
  earliest(from: number, minutes: number, place: number): number {
    let start = from
    for (let i = firstEndingAfter(this.busy, from); i <= this.busy.length; i++) {
      const [earlier, later] = [this.busy[i - 1], this.busy[i]]
      if (earlier) start = Math.max(start, earlier.to + this.way(earlier.place, place))
      if (!later || start + minutes + this.way(place, later.place) <= later.start) return start
    }
    return start
  }
}

interface Held {
  readonly start: number
  /** Infinity while nobody knows when it is freed. */
  readonly end: number
}

/** Who holds one resource, and when. */
export class Holders {
  private readonly held = new Map<number, Held>()
  /** How many of them have no end yet. */
  private open = 0
  /** The last time at which there is no room; null where it has to be counted again. */
  private fullUntil: number | null = null

  constructor(private readonly capacity: number) {}

  /** Whether one more can ever hold it, as things stand. */
  get hasRoom(): boolean {
    return this.open < this.capacity
  }

  /** @param until index of the activity that frees it */
  hold(until: number, start: number): void {
    this.put(until, { start, end: Infinity })
  }

  free(until: number, end: number): void {
    const held = this.held.get(until)
    if (held) this.put(until, { start: held.start, end })
  }

  /** Nothing comes of it any more. */
  forget(until: number): void {
    this.put(until, null)
  }

  private put(until: number, held: Held | null): void {
    if (this.held.get(until)?.end === Infinity) this.open--
    if (held?.end === Infinity) this.open++
    if (held) this.held.set(until, held)
    else this.held.delete(until)
    this.fullUntil = null
  }

  /** Earliest time, not before one, from which on there is always room. */
  earliest(from: number): number {
    this.fullUntil ??= this.lastFull()
    return Math.max(from, this.fullUntil)
  }

  private lastFull(): number {
    const changes = [...this.held.values()].flatMap(({ start, end }) => [
      { at: start, by: 1 },
      { at: end, by: -1 },
    ])
    // What ends at a time has left before the next one comes.
    changes.sort((one, other) => one.at - other.at || one.by - other.by)
    let [count, fullUntil] = [0, -Infinity]
    for (const { at, by } of changes) {
      if (by < 0 && count >= this.capacity) fullUntil = Math.max(fullUntil, at)
      count += by
    }
    return fullUntil
  }
}
