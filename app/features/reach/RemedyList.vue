<script setup lang="ts">
import type { DiagnoseAnswer, DiagnoseRequest } from '#contracts/worker'
import type { Intent } from '#core/schema'
import type { Remedy } from '#core/remedy'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { asideWords, remedyWords } from '~/wording/remedies'

/**
 * The smallest changes that would satisfy an intent, each with what else it would do; sought when asked for.
 */
const props = defineProps<{ intent: Intent }>()
const plan = usePlan()
const analysis = useAnalysis()
const session = useSession()
const found = shallowRef<readonly Remedy[] | null>(null)
const seeking = ref(false)
const defect = ref('')
let worker: Worker | undefined

function stop(): void {
  worker?.terminate()
  worker = undefined
  seeking.value = false
}
function seek(): void {
  if (!plan.draft) return
  stop()
  found.value = null
  defect.value = ''
  seeking.value = true
  worker = new Worker(new URL('../../workers/diagnose.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = (event: MessageEvent<DiagnoseAnswer>) => {
    if (event.data.kind === 'remedies') found.value = event.data.remedies
    if (event.data.kind === 'defect') defect.value = event.data.message
    stop()
  }
  worker.postMessage({
    kind: 'remedy',
    plan: plan.draft,
    intentId: props.intent.id,
    scenario: [...analysis.scenario],
  } satisfies DiagnoseRequest)
}
onBeforeUnmount(stop)
watch([() => plan.draft, () => props.intent.id, () => analysis.scenario], () => {
  stop()
  found.value = null
})
const make = (remedy: Remedy) => plan.draft && plan.apply(remedyWords(remedy, plan.draft), remedy.changes)
</script>

<template>
  <div v-if="plan.draft" class="remedies small">
    <p>
      Missing: <b>{{ intent.note }}</b>
      <VBtn v-if="seeking" @click="stop">Stop</VBtn>
      <VBtn v-else-if="!found" @click="seek">Find the smallest change</VBtn>
      <span v-if="seeking" class="soft" role="status">Trying what may be changed</span>
    </p>
    <p v-if="defect" class="wrong-words" role="alert">{{ defect }}</p>
    <p v-if="found?.length === 0" class="soft">
      No one change, nor two together, would satisfy it in this weather.
    </p>
    <ol v-if="found" aria-label="Changes that would satisfy it">
      <li v-for="(r, i) in found" :key="i">
        <span
          ><b>{{ remedyWords(r, plan.draft) }}.</b>
          <span class="soft">{{ asideWords(r.aside, plan.draft) }}</span></span
        ><VBtn v-if="session.edits" @click="make(r)">Make this change</VBtn>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.v-btn {
  flex: none;
}
.remedies {
  margin: 6px 0;
  padding: 6px 8px;
  border-left: 3px solid var(--magenta);
  background: var(--panel);
}
p {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: baseline;
}
ol {
  margin: 4px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: center;
  padding: 4px 0;
  border-top: 1px solid var(--hair);
}
</style>
