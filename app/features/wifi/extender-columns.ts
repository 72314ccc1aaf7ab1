// Extenders: what they hear, and what is left behind them.
import { EXTENDER_DBM, type ExtenderSignal } from '#core/wifi'
import type { PlacementRow } from './placement-columns'
import { rateWords, signalWords } from './words'
import type { Column } from '~/ui/columns'

export interface ExtenderRow extends PlacementRow {
  readonly signal: ExtenderSignal
}

const DASH = '—'
/** What is to be done, or known, about an extender. */
function judged({ signal: { from, heard, better }, placement }: ExtenderRow): string {
  if (!from) return 'joined to no access point: join its SSID on the Loom'
  if (from.isExtender) return 'behind another extender: halved once more'
  if (!placement) return 'not judged: it hangs in no drawn room'
  if (!heard) return 'not judged: nothing is known of a radio that it hears'
  if (heard.levelDbm >= EXTENDER_DBM) return 'hears enough'
  return better ? `too little; in ${better.room.name} ${signalWords(better.levelDbm)}` : 'too little'
}

const rates = ({ signal: { heard } }: ExtenderRow): string =>
  heard ? `${rateWords(heard.oneRadioMbps)}; with two radios ${rateWords(heard.twoRadiosMbps)}` : DASH

export const EXTENDER_COLUMNS: readonly Column<ExtenderRow>[] = [
  { key: 'name', head: 'Extender', strong: true, get: ({ device }) => device.name },
  { key: 'from', head: 'Repeats', get: ({ signal }) => signal.from?.name ?? DASH },
  {
    key: 'level',
    head: 'Hears',
    mono: true,
    get: ({ signal }) => signalWords(signal.heard?.levelDbm ?? null),
  },
  { key: 'judged', head: 'Judged', wraps: true, get: judged },
  { key: 'rates', head: 'Rate behind it', wraps: true, get: rates },
]
