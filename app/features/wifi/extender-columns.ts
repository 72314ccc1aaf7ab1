// Extenders: what they hear, and what is left behind them.
import type { ExtenderSignal } from '#core/wifi'
import type { PlacementRow } from './placement-columns'
import { behindWords, extenderWords, signalWords } from './words'
import type { Column } from '~/ui/columns'

export interface ExtenderRow extends PlacementRow {
  readonly signal: ExtenderSignal
}

export const EXTENDER_COLUMNS: readonly Column<ExtenderRow>[] = [
  { key: 'name', head: 'Extender', strong: true, get: ({ device }) => device.name },
  { key: 'from', head: 'Repeats', get: ({ signal }) => signal.from?.name ?? '—' },
  {
    key: 'level',
    head: 'Hears',
    mono: true,
    get: ({ signal }) => signalWords(signal.heard?.levelDbm ?? null),
  },
  {
    key: 'judged',
    head: 'Judged',
    wraps: true,
    get: ({ signal, placement }) => extenderWords(signal, placement !== null),
  },
  { key: 'rates', head: 'Rate behind it', wraps: true, get: ({ signal }) => behindWords(signal) },
]
