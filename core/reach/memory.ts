// Question: which cells of the grid are as they were when they were last asked?
// Method: a cell and a row hang on objects that are compared one by one; rows and columns in which somebody else stands are forgotten.
import { memoOn, same } from '#core/base'
import { fixedAs, type RulesToll, type ServiceSet } from '#core/policy'
import type { Cell, FlowRef } from './cell'
import type { Way } from './kinds'
import type { Lots } from './lots'
import type { Site } from './passage'

export interface Lost {
  readonly missing: ServiceSet
  readonly example: FlowRef | null
}
/** A cell, and what each intent that speaks of it misses there. */
export interface Settled {
  readonly hangsOn: readonly unknown[]
  readonly cell: Cell
  readonly lost: ReadonlyMap<string, Lost>
}
export const NO_LOSS: ReadonlyMap<string, Lost> = new Map()
export const lossesOf = (cells: readonly Settled[]): Settled['lost'][] =>
  cells.filter(({ lost }) => lost !== NO_LOSS).map(({ lost }) => lost)

export interface Row {
  /** Those that are drawn. */
  readonly cells: readonly Cell[]
  /** What intents miss in any of it. */
  readonly losses: readonly Settled['lost'][]
}
/** What is known of one row. */
export interface RowMemory {
  /** As they were when it was settled. */
  readonly ways: readonly Way[]
  /** By column; what stands in a column has changed where there is none. */
  readonly cells: (Settled | undefined)[]
  /** The lists of rules that any of it asks, each once for each way into them. */
  readonly entries: RulesToll[]
  /** What all of it hangs on; null where some of it was settled otherwise since. */
  hangsOn: readonly unknown[] | null
  /** Null where a column has changed since. */
  whole: Row | null
}
/** What is known of cells on the same roads. */
interface Memory {
  /** Keys of the rows, and the addresses of devices that rules name: with others nothing of it holds. */
  readonly of: readonly string[]
  readonly rows: RowMemory[]
}
const settledOn = memoOn((_roads: object): { memory: Memory | null } => ({ memory: null }))
/** What is known of a site's cells: of rows and columns in which somebody else stands than before it is forgotten. */
export function recall({ roads, index }: Site, lots: Lots): RowMemory[] {
  const held = settledOn(roads)
  const of = [fixedAs(index), ...lots.keys]
  if (!held.memory || !same(held.memory.of, of)) held.memory = { of, rows: [] }
  const { rows } = held.memory
  lots.keys.forEach((_, i) => {
    const ways = lots.ways(i)
    if (rows[i]?.ways === ways) return
    for (const row of rows) {
      if (!row.cells[i]) continue
      row.cells[i] = undefined
      row.whole = null
    }
    rows[i] = { ways, cells: [], entries: [], hangsOn: null, whole: null }
  })
  return rows
}

/** What something hangs on, listed anew for each cell: its room is kept from one to the next. */
export class Listing {
  private readonly items: unknown[] = []
  private count = 0
  start(): void {
    this.count = 0
  }
  add(item: unknown): boolean {
    this.items[this.count++] = item
    return true
  }
  /** The only item, where there is one alone. */
  get one(): unknown {
    return this.count === 1 ? this.items[0] : undefined
  }
  are(list: readonly unknown[]): boolean {
    if (list.length !== this.count) return false
    for (let i = 0; i < list.length; i++) if (list[i] !== this.items[i]) return false
    return true
  }
  list(): readonly unknown[] {
    return this.items.slice(0, this.count)
  }
}
