<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { recovery } from '#core/failover'
import { down, upstreamDown } from '#core/queries'
import type { Intent, Uplink } from '#core/schema'
import type { IntentLoss } from '#core/reachability'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { wordsOf } from '~/wording/findings'
import { stopWords } from '~/wording/stops'

/** Affected when a line dies: before anybody notices, and on the other line. */
const props = defineProps<{ uplink: Uplink; backup: Uplink }>()
const plan = usePlan()
const analysis = useAnalysis()

interface Steps {
  readonly undetected: readonly IntentLoss[]
  readonly failedOver: readonly IntentLoss[]
}
// The two steps of a failure, from the engine.
const steps = shallowRef<Steps | null>(null)
let asked = 0
watch(
  [() => props.uplink.id, () => analysis.analysis?.grid],
  async ([id, grid]) => {
    const mine = ++asked
    if (!grid) return
    const undetected = await analysis.impact([upstreamDown(id)], true)
    const without = await analysis.impact([down(id)])
    if (mine === asked && undetected && without) steps.value = { undetected, failedOver: without }
  },
  { immediate: true },
)
const who = computed(() =>
  (plan.draft?.intents ?? []).flatMap((intent) => {
    const lost = (list: readonly IntentLoss[]) => list.find((l) => l.intentId === intent.id)
    const now = steps.value
    if (!now || (!lost(now.undetected) && !lost(now.failedOver))) return []
    return [
      {
        intent,
        before: lost(now.undetected) ? 'down' : 'works',
        after: lost(now.failedOver) ? 'down' : 'works',
        must: intent.survives.includes(props.uplink.id),
      },
    ]
  }),
)

/** Why an intent is down on the other line: where its flow ends there. */
const reasons = shallowRef<ReadonlyMap<string, string>>(new Map())
watch(steps, async (now) => {
  const { id } = props.uplink
  const found = new Map<string, string>()
  for (const lost of now?.failedOver ?? []) {
    const end = lost.example ? (await analysis.walk(lost.example, false, [down(id)]))?.lines.at(-1) : null
    if (end?.kind === 'stopped') found.set(lost.intentId, stopWords(end.code))
  }
  if (steps.value === now) reasons.value = found
})
function backText(intent: Intent): string {
  const { uplink, backup } = props
  if (!uplink.probe || !plan.draft) return 'when somebody notices'
  const { leastS, worstS, silent } = recovery(plan.draft, uplink.probe, backup, intent)
  const once = silent.length > 0 ? `, and once somebody here sends to ${silent.join(', ')}` : ''
  return `${leastS} to ${worstS} s${once}`
}

type Struck = (typeof who.value)[number]
function struckWords({ intent, after }: Struck): string {
  if (after === 'works') return `- ${intent.note}: back after ${backText(intent)}.`
  const why = reasons.value.get(intent.id)
  return `- ${intent.note}: not before ${props.uplink.name} is back${why ? `, since ${why}` : ''}.`
}
const toDo = computed(() =>
  (analysis.analysis?.findings ?? [])
    .filter((f) => f.sheet === 'uplinks' && f.severity !== 'note')
    .map((f) => `To do: ${wordsOf(f).what} ${wordsOf(f).why}`),
)
/** The whole of it as sentences, for a mail or a handbook. */
const written = computed(() =>
  who.value.length === 0
    ? ''
    : [`If ${props.uplink.name} dies:`, ...who.value.map(struckWords), ...toDo.value].join('\n'),
)
const { copied, copy } = useClipboard({ source: written, legacy: true })
</script>

<template>
  <VTable v-if="who.length > 0" class="ruled who">
    <thead>
      <tr>
        <th>Affected</th>
        <th>Until it is noticed</th>
        <th>
          On {{ backup.name }}
          <VBtn class="copy" @click="copy()">
            {{ copied ? 'Copied' : 'Copy in writing' }}
          </VBtn>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="w in who" :key="w.intent.id" :class="{ trouble: w.must && w.after === 'down' }">
        <td>
          <b>{{ w.intent.note }}</b>
        </td>
        <td>{{ w.before }}</td>
        <td>
          <template v-if="w.after === 'down'"
            >down until {{ uplink.name }} is back<span v-if="reasons.has(w.intent.id)" class="soft"
              >: {{ reasons.get(w.intent.id) }}</span
            ></template
          ><template v-else
            >works, after <span class="mono">{{ backText(w.intent) }}</span></template
          >
        </td>
      </tr>
    </tbody>
  </VTable>
</template>

<style scoped>
.copy {
  float: right;
}
.who {
  margin-top: 8px;
}
.who th {
  vertical-align: middle;
}
.who td {
  white-space: normal;
}
@media (max-width: 899px) {
  .who .copy {
    white-space: normal;
    padding: 8px 6px;
  }
}
</style>
