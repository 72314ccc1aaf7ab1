import { usePlan } from '~/stores/plan'

interface Place {
  readonly row: string
  readonly column: string
}

/**
 * What somebody works in keeps the focus: a cell, a field, a dialog.
 * Of several tables of the same things the one takes it whose own button was pressed.
 */
function isFree(table: HTMLElement | null): boolean {
  const active = document.activeElement
  if (active?.closest('[role="grid"], [role="dialog"], input, textarea')) return false
  const list = active?.closest('[data-list]')
  return !list || list.contains(table)
}

/**
 * Where the focus goes in a table by itself: to the place that is pointed at, and to the row that was just added here.
 * Rows that came from somebody else leave it where it is.
 */
export function useRowFocus(
  table: () => HTMLElement | null,
  read: () => { readonly rows: readonly { readonly id: string }[]; readonly focusAt: Place | null },
  go: (row: string, column: string | null) => Promise<void>,
): void {
  const plan = usePlan()
  watch(
    () => read().focusAt,
    async (wanted) => {
      if (wanted) await go(wanted.row, wanted.column)
    },
    { immediate: true, flush: 'post' },
  )
  watch(
    () => read().rows,
    async (rows, before) => {
      if (rows.length !== before.length + 1 || plan.state === 'saved') return
      const known = new Set(before.map(({ id }) => id))
      const added = rows.filter(({ id }) => !known.has(id))
      await nextTick()
      if (added.length === 1 && added[0] && isFree(table())) await go(added[0].id, null)
    },
    { flush: 'post' },
  )
}
