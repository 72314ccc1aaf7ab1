import type { Feed } from '#core/power'
import type { Plan } from '#core/schema'

export const TROUBLE_WORDS: Readonly<Record<NonNullable<Feed['trouble']>, string>> = {
  class: 'class too high',
  'passive-to-standard': 'passive into standard',
  'standard-to-passive': 'standard into passive',
  'passive-volts': 'wrong voltage',
  voltage: 'too little voltage',
  'no-copper': 'no copper',
}

export function cableWords(plan: Plan, feed: Feed): string {
  const medium = plan.links.find(({ id }) => id === feed.linkId)?.medium
  return medium?.kind === 'copper' ? `${medium.category}, ${medium.lengthM} m` : '—'
}

/** What a device asks its source for. */
export function demandWords({ load, source }: Feed): string {
  if (load.standard === 'ieee') return `class ${load.class}`
  return `${source.standard === 'passive' ? source.volts : '?'} V`
}

/** A run time as people say it. Worked: 119 -> 119 min; 150 -> 2.5 h. */
export const runTimeWords = (min: number): string =>
  min >= 120 ? `${(min / 60).toFixed(1)} h` : `${Math.round(min)} min`

export const wattsText = (watts: number): string => watts.toFixed(1)
