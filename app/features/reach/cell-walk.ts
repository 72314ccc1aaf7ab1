import { isNothing } from '#core/filter'
import type { Plan } from '#core/schema'
import { readFlow, type FlowRef, type MatrixCell, type Walk } from '#core/reachability'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'

interface Props {
  readonly cell: MatrixCell
  readonly plan: Plan
  readonly ipv6: boolean
}

/** The flow to walk: the one that tells most, or any service of the plan between the same two. */
function useFlow(props: Props) {
  const choice = ref('')
  const choices = computed(() =>
    props.plan.services.flatMap((service) =>
      service.entries.map((entry) => ({
        key: `${entry.proto} ${entry.from}`,
        name: `${service.name}, ${entry.proto}${entry.proto === 'icmp' ? '' : ` ${entry.from}`}`,
        proto: entry.proto,
        port: entry.from,
      })),
    ),
  )
  const flow = computed((): FlowRef | null => {
    const example = props.cell.example
    const other = choices.value.find((c) => c.key === choice.value)
    return example && other ? { ...example, proto: other.proto, port: other.port } : example
  })
  /** Any other flow, as text: a port, or two addresses and a port. */
  const text = ref('')
  const read = computed(() => (text.value.trim() === '' ? null : readFlow(text.value)))
  const typed = computed(() => (read.value?.ok ? read.value.value : null))
  watch(
    () => `${props.cell.from}>${props.cell.to}`,
    () => (choice.value = text.value = ''),
  )
  return { choice, choices, flow, text, read, typed }
}

/** Intents that miss something between these two, as far as their examples tell. */
function useMissed(props: Props) {
  const analysis = useAnalysis()
  const zoneOf = (id: string) =>
    id === 'gateway' || id === 'internet' || id.startsWith('peer:')
      ? id
      : props.plan.devices.find((d) => d.id === (id.split('~')[0] ?? id))?.homeNetworkId
  return computed(() =>
    (analysis.analysis?.grid.verdicts ?? []).flatMap(({ intentId, example, missing }) => {
      const intent = props.plan.intents.find((i) => i.id === intentId)
      if (!intent || !example || isNothing(missing)) return []
      const isHere = zoneOf(example.from) === props.cell.from && zoneOf(example.to) === props.cell.to
      return isHere ? [intent] : []
    }),
  )
}

/** The flow of an opened cell that is walked, what is chosen or typed instead, and the walk as it was answered. */
export function useCellWalk(props: Props) {
  const analysis = useAnalysis()
  const store = usePlan()
  const asks = useFlow(props)
  const { flow, typed } = asks
  const walk = shallowRef<Walk | null>(null)
  const state = ref<'asking' | 'there'>('asking')
  let asked = 0
  watch(
    [flow, typed, () => props.ipv6, () => analysis.analysis, () => store.draft],
    async () => {
      const mine = ++asked
      const answer = flow.value
        ? await analysis.walk(flow.value, props.ipv6, analysis.scenario, typed.value)
        : null
      if (mine !== asked) return
      walk.value = answer
      state.value = 'there'
    },
    { immediate: true },
  )
  return { ...asks, missed: useMissed(props), walk, state }
}
