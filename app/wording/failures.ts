/** How far the failures are tried, and what they are judged by. */
export interface Tried {
  /** Of pairs, what only the two together take is told. */
  readonly part: 'singles' | 'pairs'
  readonly intents: number
  readonly tried: number
  readonly total: number
  readonly broken: number
}

const NO_INTENT = 'No intent yet: what must pass is said on Rules, and every failure is judged by it.'

export function triedWords({ part, intents, tried, total, broken }: Tried): string {
  if (intents === 0) return NO_INTENT
  return part === 'singles'
    ? `${tried} of ${total} single failures tried; ${broken} break an intent. Choose one to see the grid under it.`
    : `${tried} of ${total} pairs tried. Those that take more than their two things do alone: ${broken}. ` +
        'Choose one to see the grid under it.'
}

/** Where no failure is listed: why. */
export function noneListedWords({ part, intents, tried, total }: Tried): string {
  if (intents === 0) return 'Nothing can be judged yet.'
  if (total === 0) return part === 'singles' ? 'Nothing that can fail yet.' : 'Choose two things or more.'
  if (tried < total) return 'Trying'
  return part === 'singles'
    ? 'No single failure breaks an intent.'
    : 'No pair breaks more than its two things do alone.'
}
