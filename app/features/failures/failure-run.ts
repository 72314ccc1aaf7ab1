import { conditionText, scenarioText, type Condition, type FailureScenario } from '#core/queries'
import { jointOnlyImpact, pairsOf, singleFailures, type IntentLoss } from '#core/reachability'
import type { Plan } from '#core/schema'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'

export type FailureKind =
  'uplink' | 'tunnel' | 'cable' | 'rain' | 'time of the week' | Plan['devices'][number]['kind']

/** What it is that a condition strikes. */
export function failureKind(condition: Condition, plan: Plan): FailureKind {
  if (condition.kind === 'instant') return 'time of the week'
  if (condition.kind === 'rain') return 'rain'
  if (condition.kind === 'upstream-down') return 'uplink'
  const { id } = condition
  if (plan.uplinks.some((uplink) => uplink.id === id)) return 'uplink'
  if (plan.tunnels.some(({ peers }) => peers.some((peer) => peer.id === id))) return 'tunnel'
  return plan.devices.find((device) => device.id === id)?.kind ?? 'cable'
}

const USUALLY_PAIRED: readonly FailureKind[] = ['uplink', 'tunnel', 'switch']

/** The pairs of chosen failures: uplinks, far ends and switches, until somebody chooses otherwise. */
export function useFailurePairs() {
  const plan = usePlan()
  const singles = computed(() => (plan.draft ? singleFailures(plan.draft) : []))
  const byHand = shallowRef<ReadonlySet<string> | null>(null)
  const usual = computed(
    () =>
      new Set(
        singles.value
          .filter((single) => plan.draft && USUALLY_PAIRED.includes(failureKind(single, plan.draft)))
          .map(conditionText),
      ),
  )
  const paired = computed(() =>
    singles.value.filter((single) => (byHand.value ?? usual.value).has(conditionText(single))),
  )
  const chosen = computed(() => new Set(paired.value.map(conditionText)))
  /** An uplink that is down takes all that it takes when nothing answers beyond it. */
  const isPaired = (condition: Condition) =>
    condition.kind !== 'upstream-down' ||
    !paired.value.some((other) => other.kind === 'down' && other.id === condition.uplinkId)
  const pairs = computed(() => pairsOf(paired.value.filter(isPaired)))
  function toggle(condition: Condition): void {
    const next = new Set(chosen.value)
    if (!next.delete(conditionText(condition))) next.add(conditionText(condition))
    byHand.value = next
  }
  return { singles, pairs, chosen, toggle }
}

/** Tries the wanted failures one after another, and anew when the plan was answered anew. */
export function useFailureRun(wanted: () => readonly FailureScenario[]) {
  const analysis = useAnalysis()
  /** What each scenario takes, by its text. */
  const done = shallowRef<ReadonlyMap<string, readonly IntentLoss[]>>(new Map())
  const running = ref(false)
  let round = 0

  async function tryAll(fresh: boolean): Promise<void> {
    const mine = ++round
    const found = new Map(fresh ? [] : done.value)
    done.value = found
    running.value = true
    for (const scenario of wanted()) {
      if (found.has(scenarioText(scenario))) continue
      const lost = await analysis.impact(scenario)
      if (mine !== round) return
      if (lost) found.set(scenarioText(scenario), lost)
      done.value = new Map(found)
    }
    running.value = false
  }
  function stop(): void {
    round++
    running.value = false
  }
  // The grid's worker holds a new plan when it has answered for it: then the failures are tried anew.
  watch(
    () => analysis.analysis?.grid,
    (grid) => {
      if (grid) void tryAll(true)
    },
    { immediate: true },
  )
  watch(wanted, () => void tryAll(false))
  onBeforeUnmount(stop)

  const foundFor = (scenario: FailureScenario) => done.value.get(scenarioText(scenario))
  /** What a scenario takes; of a pair, only what neither of the two takes alone. */
  function lostBy(scenario: FailureScenario): readonly IntentLoss[] | undefined {
    const lost = foundFor(scenario)
    return lost && scenario.length === 2
      ? jointOnlyImpact(lost, ...scenario.map((condition) => foundFor([condition]) ?? []))
      : lost
  }
  return { running, tryAll, stop, foundFor, lostBy }
}
