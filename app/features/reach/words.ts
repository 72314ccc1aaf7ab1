import type { Shown } from './grid-view'

/** Why nothing of the grid is shown. */
export function nothingShownWords(show: Shown, sought: string, intents: number): string {
  if (sought !== '') return 'Nothing of that name.'
  if (show === 'changed') return 'Nothing changed between the two.'
  return show === 'wrong' && intents === 0
    ? 'No intent yet: what must pass is said on Rules.'
    : 'Nothing is against the intent.'
}
