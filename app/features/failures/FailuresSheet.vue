<script setup lang="ts">
import { conditionText, scenarioText, type Condition, type FailureScenario } from '#core/queries'
import { jointOnlyImpact, pairsOf, singleFailures, type IntentLoss } from '#core/reachability'
import ImpactMatrix from './ImpactMatrix.vue'
import SavedRuns from './SavedRuns.vue'
import TabBar from '~/ui/TabBar.vue'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { count } from '~/wording/findings'
import { namesIn } from '~/wording/reach'

/**
 * Every single failure, tried, and chosen pairs: what breaks and for whom, and which intents hang on one
 * thing alone.
 */
const plan = usePlan()
const analysis = useAnalysis()
const names = computed(() => plan.draft && namesIn(plan.draft))
const onlyBad = ref(true)
const part = ref<'singles' | 'pairs' | 'kept'>('singles')

const all = computed(() => (plan.draft ? singleFailures(plan.draft) : []))
/** What the pairs are made of: the lines and the far ends, until somebody chooses otherwise. */
const byHand = shallowRef<ReadonlySet<string> | null>(null)
const usual = computed(() =>
  all.value.filter((condition) => ['line', 'tunnel', 'switch'].includes(kindOf(condition))),
)
const chosen = computed(() => byHand.value ?? new Set(usual.value.map(conditionText)))
const paired = computed(() => all.value.filter((condition) => chosen.value.has(conditionText(condition))))
/** A line that is down takes all that it takes when nothing answers beyond it. */
const isPaired = (condition: Condition) =>
  condition.kind !== 'upstream-down' ||
  !paired.value.some((other) => other.kind === 'down' && other.id === condition.uplinkId)
const pairs = computed(() => pairsOf(paired.value.filter(isPaired)))
function toggle(condition: Condition): void {
  const next = new Set(chosen.value)
  if (!next.delete(conditionText(condition))) next.add(conditionText(condition))
  byHand.value = next
}

/** What each scenario takes, by its text. */
const done = shallowRef<ReadonlyMap<string, readonly IntentLoss[]>>(new Map())
const wanted = computed((): FailureScenario[] => [
  ...all.value.map((condition) => [condition]),
  ...(part.value === 'pairs' ? pairs.value : []),
])
const running = ref(false)
let round = 0

async function tryAll(fresh: boolean): Promise<void> {
  const mine = ++round
  const found = new Map(fresh ? [] : done.value)
  done.value = found
  running.value = true
  for (const scenario of wanted.value) {
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
watch([part, pairs], () => void tryAll(false))
onBeforeUnmount(stop)

const intentOf = (id: string) => plan.draft?.intents.find((i) => i.id === id)
const mustSurvive = (intentId: string, [first, ...others]: FailureScenario) =>
  first?.kind === 'down' && others.length === 0 && (intentOf(intentId)?.survives.includes(first.id) ?? false)
const moments = computed(() => (plan.draft?.schedules.length ?? 0) > 0)
function kindOf(condition: Condition): string {
  if (condition.kind === 'instant') return 'time of the week'
  if (condition.kind === 'upstream-down') return 'line'
  const { id } = condition
  if (plan.draft?.uplinks.some((u) => u.id === id)) return 'line'
  if (plan.draft?.tunnels.some((t) => t.peers.some((p) => p.id === id))) return 'tunnel'
  return plan.draft?.devices.find((d) => d.id === id)?.kind ?? 'cable'
}
const nameOf = (scenario: FailureScenario) =>
  scenario.map((condition) => names.value?.condition(condition)).join(' and ')
const foundFor = (scenario: FailureScenario) => done.value.get(scenarioText(scenario))
const lostBy = (scenario: FailureScenario): readonly IntentLoss[] | undefined => {
  const lost = foundFor(scenario)
  return lost && scenario.length === 2
    ? jointOnlyImpact(lost, ...scenario.map((condition) => foundFor([condition]) ?? []))
    : lost
}
const rows = computed(() =>
  (part.value === 'singles' ? all.value.map((condition) => [condition]) : pairs.value)
    .flatMap((failed) => {
      const lost = lostBy(failed)
      if (lost === undefined || (onlyBad.value && lost.length === 0)) return []
      return [{ failed, lost, name: nameOf(failed), kind: failed.map(kindOf).join(', ') }]
    })
    .sort((a, b) => b.lost.length - a.lost.length),
)
const tried = computed(() =>
  wanted.value.filter(
    (scenario) => foundFor(scenario) && scenario.length === (part.value === 'singles' ? 1 : 2),
  ),
)
const total = computed(() => (part.value === 'singles' ? all.value : pairs.value).length)
const broken = computed(() => tried.value.filter((scenario) => (lostBy(scenario)?.length ?? 0) > 0).length)
const points = computed(() =>
  (plan.draft?.intents ?? []).map((intent) => ({
    intent,
    on: all.value.filter((condition) => foundFor([condition])?.some((l) => l.intentId === intent.id)),
  })),
)
const emptyWords = computed(() => {
  if (tried.value.length < total.value) return 'Trying'
  if (part.value === 'singles') return 'No single failure breaks an intent.'
  return pairs.value.length === 0
    ? 'Choose two things or more.'
    : 'No pair breaks more than its two things do alone.'
})
const parts = computed(() => [
  { key: 'singles', name: 'Single failures', tally: String(all.value.length) },
  { key: 'pairs', name: 'Chosen pairs', tally: String(pairs.value.length) },
  { key: 'kept', name: 'Kept runs' },
])

async function look(scenario: FailureScenario): Promise<void> {
  analysis.scenario = scenario
  await navigateTo(`/sites/${plan.slug}/reach`)
}
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Weather table</h1>
      <span v-if="part !== 'kept'" class="tools">
        <VCheckbox v-model="onlyBad" label="only what breaks something" />
        <VBtn v-if="running" @click="stop">Stop</VBtn>
        <VBtn v-else @click="tryAll(true)">Try again</VBtn>
      </span>
      <p v-if="part === 'kept'">What the server has tried and keeps, for whoever asks next.</p>
      <p v-else aria-live="polite">
        <template v-if="part === 'singles'"
          >{{ tried.length }} of {{ total }} single failures tried; {{ broken }} break an intent.</template
        ><template v-else
          >{{ tried.length }} of {{ total }} pairs tried. Those that take more than their two things do alone:
          {{ broken }}.</template
        >
        Choose one to see the grid under it.
      </p>
    </header>
    <TabBar v-model="part" :parts="parts" label="Weathers" />
    <SavedRuns v-if="part === 'kept'" :pairs="paired.map(conditionText)" />
    <template v-else>
      <details v-if="part === 'pairs'" class="choose small">
        <summary>Pairs of {{ count(paired.length, 'thing') }}: choose which</summary>
        <div>
          <VCheckbox
            v-for="condition in all"
            :key="conditionText(condition)"
            :model-value="paired.includes(condition)"
            @update:model-value="toggle(condition)"
            :label="names?.condition(condition)"
          />
        </div>
      </details>
      <VProgressLinear
        v-if="running"
        :model-value="tried.length"
        :max="total"
        color="primary"
        aria-label="Failures tried"
      />
      <ImpactMatrix
        :rows="rows"
        :intents="plan.draft.intents"
        :head="moments ? 'Without, or at' : 'Without'"
        :label="part === 'pairs' ? 'What only the two together take' : 'What each failure takes'"
        :must-survive="mustSurvive"
        @look="look"
      >
        <template #empty>{{ emptyWords }}</template>
      </ImpactMatrix>
    </template>
    <template v-if="part === 'singles'">
      <h2 class="points">What each intent hangs on</h2>
      <VTable class="ruled">
        <thead>
          <tr>
            <th>Intent</th>
            <th class="num">Single points of failure</th>
            <th>Which</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in points" :key="p.intent.id">
            <td>
              <b>{{ p.intent.note }}</b>
            </td>
            <td class="num mono">{{ p.on.length }}</td>
            <td class="small">
              {{
                p.on
                  .slice(0, 6)
                  .map((condition) => names?.condition(condition))
                  .join('; ')
              }}{{ p.on.length > 6 ? ` and ${count(p.on.length - 6, 'more thing')}` : '' }}
            </td>
          </tr>
        </tbody>
      </VTable>
    </template>
  </section>
</template>

<style scoped>
.points {
  margin: 16px 0 6px;
}
.ruled td:first-child {
  min-width: 130px;
}
.ruled td {
  white-space: normal;
  vertical-align: top;
  padding-top: 4px;
  padding-bottom: 4px;
}
.choose {
  margin-bottom: 8px;
}
.choose div {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 2px 10px;
  padding: 6px 0;
  max-height: 220px;
  overflow: auto;
}
</style>
