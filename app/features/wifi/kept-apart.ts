// Client isolation is two things: stations on the air, and networks by the rules. Both, with what is still open.
import type { Ssid } from '#core/schema'
import { byRulesWords, onAirWords } from './kept-apart-words'
import { useIsolationColumns } from './ssid-setting-columns'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import type { Column } from '~/ui/columns'

export function useKeptApartColumns(): readonly Column<Ssid>[] {
  const plan = usePlan()
  const analysis = useAnalysis()
  const grid = computed(() => analysis.analysis?.grid)
  return [
    ...useIsolationColumns(),
    {
      key: 'air',
      head: 'On the air',
      wraps: true,
      get: (ssid) => (plan.index ? onAirWords(ssid, plan.index) : '—'),
    },
    {
      key: 'rules',
      head: 'By the rules',
      wraps: true,
      get: (ssid) => (plan.index && grid.value ? byRulesWords(ssid, plan.index, grid.value) : '—'),
    },
  ]
}
