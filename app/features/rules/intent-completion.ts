import type { Plan } from '#core/schema'
import { survivable } from './survives-column'

const ids = (list: readonly { readonly id: string }[]) => list.map(({ id }) => id)

/** What a word of the grammar is followed by. */
function idsAfter(word: string, plan: Plan): string[] | null {
  switch (word) {
    case 'network':
      return ids(plan.networks)
    case 'device':
      return ids(plan.devices)
    case 'tunnel':
      return ids(plan.tunnels)
    case 'peer':
      return plan.tunnels.flatMap(({ peers }) => ids(peers))
    case 'group':
      return ids(plan.groups)
    case 'during':
      return ids(plan.schedules)
    default:
      return null
  }
}

const SELECTORS = ['any', 'inside', 'internet', 'gateway', 'device', 'tunnel', 'peer', 'group']

/** What fits after the beginning of a line of intents, in the order in which a person looks for it. */
export function intentWords(plan: Plan, before: string): readonly string[] {
  if (before.includes('#')) return []
  const byWord = idsAfter(/(\w+)\s+$/.exec(before)?.[1] ?? '', plan)
  if (byWord) return byWord
  // The colons of an IPv6 prefix stand in brackets.
  const parts = before.replace(/\[[^\]]*\]?/g, '').split(':')
  if (parts.length < 2) return []
  const last = parts.at(-1) ?? ''
  if (parts.length === 2) return /^\s*$|->\s*$/.test(last) ? [...ids(plan.networks), ...SELECTORS] : []
  if (/\bsurvives\b/.test(last) && /(?:survives|,)\s*$/.test(last)) return ids(survivable(plan))
  return /^\s*$|,\s*$/.test(last) ? ['all', ...ids(plan.services)] : ['survives', 'during', 'logged']
}
