const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
}

/**
 * Arrow keys over a table of buttons, of which one alone is reached by Tab.
 * A button tells its place by `data-cell`; where there is none
 * the arrow goes on, and stays where it was at the edge.
 */
export function useCellArrows(
  root: () => HTMLElement | null,
  size: () => { readonly rows: number; readonly columns: number },
) {
  const focus = reactive({ row: 0, column: 1 })
  const within = (n: number, most: number) => n >= 0 && n < most
  async function key(event: KeyboardEvent): Promise<void> {
    const step = STEPS[event.key]
    if (!step) return
    event.preventDefault()
    const { rows, columns } = size()
    for (
      let row = focus.row + step[0], column = focus.column + step[1];
      within(row, rows) && within(column, columns);
      row += step[0], column += step[1]
    ) {
      const button = root()?.querySelector<HTMLElement>(`[data-cell="${row}-${column}"]`)
      if (!button) continue
      Object.assign(focus, { row, column })
      await nextTick()
      return button.focus()
    }
  }
  /** True for the one that Tab reaches. */
  const isAt = (row: number, column: number) =>
    row === Math.min(focus.row, size().rows - 1) && column === Math.min(focus.column, size().columns - 1)
  return { focus, key, isAt }
}
