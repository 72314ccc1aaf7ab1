// Question: which rows and columns of a grid say the same, so that one can stand for all, and which say
// nothing that is sought?
// Method: two keys are alike where swapping them changes no cell; that is transitive, so alike keys form
// bands.
// A band's cell is that of its first key; within a band, that from its first to its second.
// Source: twins of a directed graph (modules of size two;
// McConnell and de Montgolfier, 2005), from memory.
import { formatServices, intersect, NOTHING, type ServiceSet } from '#core/filter'
import type { MatrixCell } from './cell'
import type { ReachabilityMatrix } from './matrix'

/** Keys that say the same; the first stands for all. */
export interface RowGroup {
  readonly keys: readonly string[]
}

/** Looks cells up by their two keys. */
export type CellAt = (from: string, to: string) => MatrixCell | undefined

export function cellsOf(grid: ReachabilityMatrix): CellAt {
  const places = new Map(grid.keys.map((key, i) => [key, i]))
  return (from, to) => {
    const [row, column] = [places.get(from), places.get(to)]
    return row === undefined || column === undefined ? undefined : grid.cells[row * grid.keys.length + column]
  }
}

/** What a cell says, as a text that two cells share where they say the same. */
function cellFingerprint(cell: MatrixCell | undefined): string {
  if (!cell) return ''
  const sets = [cell.intended, cell.allPairs, cell.somePairs, cell.missing, cell.unexpected]
  return `${cell.judged} ${cell.isEmpty} ${sets.map(formatServices).join(' ')}`
}

/**
 * The keys of a grid in bands, in drawing order; each by itself where `alike` is false.
 * `more` says what else tells two cells apart, such as what was observed of them.
 */
export function groupEqualRows(
  grid: ReachabilityMatrix,
  alike: boolean,
  more: (cell: MatrixCell) => string = () => '',
): RowGroup[] {
  if (!alike) return grid.keys.map((key) => ({ keys: [key] }))
  const at = cellsOf(grid)
  const texts = new Map<string, number>()
  const numbers = new Map<string, number>()
  for (const from of grid.keys) {
    for (const to of grid.keys) {
      const cell = at(from, to)
      const text = `${cellFingerprint(cell)} ${cell ? more(cell) : ''}`
      if (!texts.has(text)) texts.set(text, texts.size)
      numbers.set(`${from}>${to}`, texts.get(text) ?? 0)
    }
  }
  const says = (from: string, to: string) => numbers.get(`${from}>${to}`)
  const twins = (first: string, second: string) =>
    says(first, first) === says(second, second) &&
    says(first, second) === says(second, first) &&
    grid.keys.every(
      (x) =>
        x === first ||
        x === second ||
        (says(first, x) === says(second, x) && says(x, first) === says(x, second)),
    )
  const bands: string[][] = []
  for (const key of grid.keys) {
    const own = bands.find(([first]) => first !== undefined && twins(first, key))
    if (own) own.push(key)
    else bands.push([key])
  }
  return bands.map((keys) => ({ keys }))
}

/** The cell that stands for all from one band to another. */
export function groupCell(at: CellAt, from: RowGroup, to: RowGroup): MatrixCell | undefined {
  const [first = ''] = from.keys
  return at(first, from === to ? (to.keys[1] ?? first) : (to.keys[0] ?? ''))
}

/** A cell as it speaks of some services alone. */
export function restrictTo(cell: MatrixCell, only: ServiceSet): MatrixCell {
  const cut = (set: ServiceSet) => intersect(set, only)
  return {
    ...cell,
    intended: cut(cell.intended),
    allPairs: cut(cell.allPairs),
    somePairs: cut(cell.somePairs),
    missing: cut(cell.missing),
    unexpected: cut(cell.unexpected),
  }
}

/**
 * A cell of the IPv6 grid, as it is judged: what IPv6 does not carry, IPv4 does, and is against no intent.
 */
export function asSecondFamily(cell: MatrixCell): MatrixCell {
  return { ...cell, isEmpty: false, intended: intersect(cell.intended, cell.allPairs), missing: NOTHING }
}

/** Rows and columns in which something sought is found. */
export function keptGroups(
  bands: readonly RowGroup[],
  at: CellAt,
  sought: (cell: MatrixCell) => boolean,
): { readonly rows: readonly RowGroup[]; readonly columns: readonly RowGroup[] } {
  const found = (from: RowGroup, to: RowGroup) => {
    const cell = groupCell(at, from, to)
    return cell !== undefined && sought(cell)
  }
  return {
    rows: bands.filter((r) => bands.some((c) => found(r, c))),
    columns: bands.filter((c) => bands.some((r) => found(r, c))),
  }
}
