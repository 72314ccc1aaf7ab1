import type { Column } from './columns'

export interface SortedBy {
  readonly column: string
  readonly descending: boolean
}

// Numbers within texts by their value, so that 10.0.9.0 stands before 10.0.10.0 and port 9 before port 10.
const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })
export const compareTexts = (one: string, other: string): number => collator.compare(one, other)

/** Rows by what a column shows of them; those that show the same stay in their order. */
export function sortedRows<Row>(
  rows: readonly Row[],
  columns: readonly Column<Row>[],
  by: SortedBy | null,
): readonly Row[] {
  const column = columns.find(({ key }) => key === by?.column)
  if (!by || !column) return rows
  const sign = by.descending ? -1 : 1
  return rows
    .map((row) => ({ row, text: column.get(row) }))
    .toSorted((one, other) => sign * compareTexts(one.text, other.text))
    .map(({ row }) => row)
}

/** Rows in which each of some words stands, in whichever column. */
export function rowsWith<Row>(
  rows: readonly Row[],
  columns: readonly Column<Row>[],
  wanted: string,
): readonly Row[] {
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean)
  if (words.length === 0) return rows
  return rows.filter((row) => {
    const text = columns.map((column) => column.get(row).toLowerCase()).join('\n')
    return words.every((word) => text.includes(word))
  })
}

/** The next way to sort after a column's head was pressed: up, down, and as the plan has it. */
export function sortedNext(by: SortedBy | null, column: string): SortedBy | null {
  if (by?.column !== column) return { column, descending: false }
  return by.descending ? null : { column, descending: true }
}

interface Sortable<Row> {
  readonly rows: readonly Row[]
  readonly columns: readonly Column<Row>[]
  readonly ordered?: boolean
}

/** The rows of a table as somebody has filtered and sorted them. */
export function useSorting<Row extends { readonly id: string }>(table: () => Sortable<Row>) {
  const sortedBy = shallowRef<SortedBy | null>(null)
  const wanted = ref('')
  const filtered = computed(() => rowsWith(table().rows, table().columns, wanted.value ?? ''))
  const sorted = computed(() => sortedRows(filtered.value, table().columns, sortedBy.value))
  /** The rows while a cell is edited: each stays, and stays where it is, until its text is finished. */
  const held = shallowRef<readonly string[] | null>(null)
  const rows = computed(() => {
    const order = held.value
    if (!order || (!sortedBy.value && !wanted.value)) return sorted.value
    const place = new Map(order.map((id, at) => [id, at]))
    const kept = table().rows.filter(({ id }) => place.has(id))
    return kept.toSorted((one, other) => (place.get(one.id) ?? 0) - (place.get(other.id) ?? 0))
  })
  function sortBy(key: string): void {
    const head = table().columns.find((column) => column.key === key)?.head ?? ''
    if (!table().ordered && head !== '') sortedBy.value = sortedNext(sortedBy.value, key)
  }
  return { rows, held, wanted, sortedBy, sortBy }
}
