// Question: from when on is a person, or a thing, free?
// Method: what is laid out so far, in order of time; a gap counts where travel to and from it fits as well.
// Source: none; plain look-ups.
import { firstEndingAfter } from './calendar'

interface Busy {
  readonly start: number
  readonly end: number
  readonly place: string
  /** The latest end up to here: what was told of may overlap. */
  readonly to: number
}

/** What one person does, in order of time. */
export class Agenda {
  private readonly busy: Busy[] = []
  private total = 0

  constructor(private readonly travelMin: (from: string, to: string) => number) {}

  /** Minutes of work so far. */
  get loadMin(): number {
    return this.total
  }

  /** Minutes of travel between what is laid out so far. */
  get travelledMin(): number {
    return this.busy.reduce(
      (sum, each, i) => sum + this.travelMin(this.busy[i - 1]?.place ?? each.place, each.place),
      0,
    )
  }

  /** Travel to a place from whatever is done before a time, minutes. */
  travelTo(start: number, place: string): number {
    const before = this.busy[firstEndingAfter(this.busy, start) - 1]
    return before ? this.travelMin(before.place, place) : 0
  }

  add(start: number, end: number, place: string): void {
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
  earliest(from: number, minutes: number, place: string): number {
    let start = from
    for (let i = firstEndingAfter(this.busy, from); i <= this.busy.length; i++) {
      const [earlier, later] = [this.busy[i - 1], this.busy[i]]
      if (earlier) start = Math.max(start, earlier.to + this.travelMin(earlier.place, place))
      if (!later || start + minutes + this.travelMin(place, later.place) <= later.start) return start
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

  constructor(private readonly capacity: number) {}

  /** Whether one more can ever hold it, as things stand. */
  get hasRoom(): boolean {
    let open = 0
    for (const { end } of this.held.values()) if (end === Infinity) open++
    return open < this.capacity
  }

  /** @param until index of the activity that frees it */
  hold(until: number, start: number): void {
    this.held.set(until, { start, end: Infinity })
  }

  free(until: number, end: number): void {
    const held = this.held.get(until)
    if (held) this.held.set(until, { start: held.start, end })
  }

  /** Nothing comes of it any more. */
  forget(until: number): void {
    this.held.delete(until)
  }

  /** Earliest time, not before one, from which on there is always room. */
  earliest(from: number): number {
    const changes = [...this.held.values()].flatMap(({ start, end }) => [
      { at: start, by: 1 },
      { at: end, by: -1 },
    ])
    // What ends at a time has left before the next one comes.
    changes.sort((one, other) => one.at - other.at || one.by - other.by)
    let [count, fullUntil] = [0, from]
    for (const { at, by } of changes) {
      if (by < 0 && count >= this.capacity) fullUntil = Math.max(fullUntil, at)
      count += by
    }
    return fullUntil
  }
}
