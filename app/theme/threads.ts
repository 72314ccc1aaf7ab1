// How VLANs are told apart: each by its own colour and dash together, so that either alone is enough.
import type { Network, NetworkId } from '#core/schema'

export interface Thread {
  /** A CSS colour that follows day and night. */
  readonly colour: string
  /** SVG stroke-dasharray; empty for a solid line. */
  readonly dash: string
}

const COLOURS = ['ink', 'deep', 'plum', 'ochre', 'brick', 'kelp', 'blue', 'umber'] as const
const FIRST: readonly Thread[] = (['2 3', '', '8 3', '3 3', '10 3 2 3', '6 2', '1 3', '5 5'] as const).map(
  (dash, i) => ({ colour: `var(--${COLOURS[i]})`, dash }),
)
/** Further dashes; each is walked through the colours in an order that sets it apart from its neighbours. */
const MORE = ['12 4', '4 2 1 2', '14 2 2 2 2 2', '7 7', '2 6', '9 2 4 2'] as const

/** At least 24 pairs; beyond them they repeat. */
export const THREADS: readonly Thread[] = [
  ...FIRST,
  ...MORE.flatMap((dash, nth) =>
    COLOURS.map((_, i) => ({ colour: `var(--${COLOURS[(i * 3 + nth) % COLOURS.length]})`, dash })),
  ),
]

/** Pairs go by the order in which networks entered the plan, so that a new network changes no other's. */
export function threadOf(networks: readonly Network[], networkId: NetworkId): Thread {
  const at = Math.max(
    0,
    networks.findIndex((n) => n.id === networkId),
  )
  return THREADS[at % THREADS.length] as Thread
}
