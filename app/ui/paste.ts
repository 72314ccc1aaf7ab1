import type { Column } from './columns'
import { reasonOf } from '~/wording/problems'
import { OUTSIDE_TABLE, columnNotTyped } from '~/wording/pasted'

/** Cells of a spreadsheet's text, by line. */
export async function cellsOf(text: string): Promise<readonly (readonly string[])[]> {
  const { default: Papa } = await import('papaparse')
  const lines = Papa.parse<string[]>(text, { delimiter: '\t' }).data
  return lines.map((line) => line.map((cell) => cell.trim()))
}

interface PastedCell<Row> {
  /** Undefined where the cell lies past the table. */
  readonly row: Row | undefined
  readonly column: Column<Row> | undefined
  readonly cell: string
}
/** Why a cell cannot be pasted; nothing where it can, or where it stands there already. */
export function faultsOf<Row>(
  { row, column, cell }: PastedCell<Row>,
  nameOf: (row: Row) => string,
): string[] {
  if (!row || !column) return [OUTSIDE_TABLE]
  const at = `${nameOf(row)}, ${column.head}`
  if (!column.commit) return column.get(row) === cell ? [] : [columnNotTyped(at)]
  const found = column.check?.(row, cell) ?? []
  return found.length === 0 ? [] : [`${at}: ${found.map(reasonOf).join('; ')}.`]
}
