<script setup lang="ts">
import { DARK } from '#core/model'
import { formatServices } from '#core/policy'
import { singleFailures, type Lost } from '#core/reach'
import PennantMark from '~/components/PennantMark.vue'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { count } from '~/wording/findings'
import { namesIn } from '~/wording/reach'

/** Every single failure, tried: what breaks and for whom, and which intents hang on one thing alone. */
const plan = usePlan()
const analysis = useAnalysis()
const names = computed(() => plan.draft && namesIn(plan.draft))
const onlyBad = ref(true)
const done = shallowRef<ReadonlyMap<string, readonly Lost[]>>(new Map())
const all = computed(() => (plan.draft ? singleFailures(plan.draft) : []))
const running = ref(false)
let round = 0

async function tryAll(): Promise<void> {
  const mine = ++round
  const found = new Map<string, readonly Lost[]>()
  done.value = found
  running.value = true
  for (const failed of all.value) {
    const lost = await analysis.storm([failed])
    if (mine !== round) return
    if (lost) found.set(failed, lost)
    done.value = new Map(found)
  }
  running.value = false
}
function stop(): void {
  round++
  running.value = false
}
// The grid's worker holds a new plan when it has answered for it: then the failures are tried anew.
watch(() => analysis.analysis?.grid, (grid) => {
  if (grid) void tryAll()
}, { immediate: true })
onBeforeUnmount(stop)

const intentOf = (id: string) => plan.draft?.intents.find((i) => i.id === id)
const mustSurvive = (intentId: string, failed: string) => intentOf(intentId)?.survives.includes(failed) ?? false
const kindOf = (id: string) => {
  if (plan.draft?.uplinks.some((u) => u.id === id || DARK + u.id === id)) return 'line'
  if (plan.draft?.tunnels.some((t) => t.peers.some((p) => p.id === id))) return 'tunnel'
  return plan.draft?.devices.find((d) => d.id === id)?.kind ?? 'cable'
}
const rows = computed(() => all.value.flatMap((failed) => {
  const lost = done.value.get(failed)
  return lost === undefined || (onlyBad.value && lost.length === 0) ? [] : [{ failed, lost }]
}).sort((a, b) => b.lost.length - a.lost.length))
const broken = computed(() => [...done.value.values()].filter((l) => l.length > 0).length)
const points = computed(() => (plan.draft?.intents ?? []).map((intent) => ({ intent, on: all.value.filter((failed) => done.value.get(failed)?.some((l) => l.intentId === intent.id)) })))
const whole = computed(() => done.value.size === all.value.length)

async function look(failed: string): Promise<void> {
  analysis.weather = [failed]
  await navigateTo(`/sites/${plan.slug}/reach`)
}
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Weather table</h1>
      <span class="tools">
        <label class="small tick"><input v-model="onlyBad" type="checkbox"> only what breaks something</label>
        <button v-if="running" type="button" class="press" @click="stop">Stop</button>
        <button v-else type="button" class="press" @click="tryAll">Try again</button>
      </span>
      <p aria-live="polite">{{ done.size }} of {{ all.length }} single failures tried; {{ broken }} break an intent. Choose one to see the grid under it.</p>
    </header>
    <progress v-if="running" :value="done.size" :max="all.length" aria-label="Failures tried" />
    <table class="ruled">
      <thead><tr><th>Without</th><th>What it is</th><th class="num">Intents lost</th><th>What no longer works</th></tr></thead>
      <tbody>
        <tr v-for="row in rows" :key="row.failed">
          <td><button type="button" class="plain link" @click="look(row.failed)"><b>{{ names?.thing(row.failed) }}</b></button></td>
          <td>{{ kindOf(row.failed) }}</td>
          <td class="num mono">{{ row.lost.length }}</td>
          <td class="small">
            <span v-if="row.lost.length === 0" class="soft">nothing</span>
            <span v-for="(l, i) in row.lost" :key="l.intentId" :title="formatServices(l.services)"><template v-if="mustSurvive(l.intentId, row.failed)"><PennantMark state="cut" says="must survive this" /> <b>{{ intentOf(l.intentId)?.note }}</b></template><template v-else>{{ intentOf(l.intentId)?.note }}</template>{{ i < row.lost.length - 1 ? '; ' : '' }}</span>
          </td>
        </tr>
        <tr v-if="rows.length === 0"><td colspan="4" class="soft">{{ whole ? 'No single failure breaks an intent.' : 'Trying' }}</td></tr>
      </tbody>
    </table>
    <h2 class="points">What each intent hangs on</h2>
    <table class="ruled">
      <thead><tr><th>Intent</th><th class="num">Single points of failure</th><th>Which</th></tr></thead>
      <tbody>
        <tr v-for="p in points" :key="p.intent.id"><td><b>{{ p.intent.note }}</b></td><td class="num mono">{{ p.on.length }}</td><td class="small">{{ p.on.slice(0, 6).map((id) => names?.thing(id)).join('; ') }}{{ p.on.length > 6 ? ` and ${count(p.on.length - 6, 'more thing')}` : '' }}</td></tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.tick { display: inline-flex; gap: 5px; align-items: center; margin-right: 8px; }
.link:hover b { text-decoration: underline; }
.points { margin: 16px 0 6px; }
.ruled td { white-space: normal; vertical-align: top; padding-top: 4px; padding-bottom: 4px; }
progress { width: 100%; height: 8px; accent-color: var(--deep); margin-bottom: 8px; }
</style>
