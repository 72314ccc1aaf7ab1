<script setup lang="ts">
import { conditionOf, conditionText, failableThings, type FailureScenario } from '#core/queries'
import { failureKind, useFailurePairs, useFailureRun } from './failure-run'
import ImpactMatrix from './ImpactMatrix.vue'
import SavedRuns from './SavedRuns.vue'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import TabBar from '~/ui/TabBar.vue'
import { noneListedWords, triedWords, type Tried } from '~/wording/failures'
import { count } from '~/wording/findings'
import { failingWord } from '~/wording/kinds'
import { namesIn } from '~/wording/names'

/**
 * Every single failure, tried, and chosen pairs: what breaks and for whom, and which intents hang on one
 * thing alone.
 */
const plan = usePlan()
const analysis = useAnalysis()
const names = computed(() => plan.draft && namesIn(plan.draft))
const onlyBad = ref(true)
const part = ref<'singles' | 'pairs' | 'kept'>('singles')

const { singles, pairs, chosen, toggle } = useFailurePairs()
const single = computed((): FailureScenario[] => singles.value.map((condition) => [condition]))
const listed = computed(() => (part.value === 'singles' ? single.value : pairs.value))
const wanted = computed(() => (part.value === 'pairs' ? [...single.value, ...pairs.value] : single.value))
const { running, tryAll, stop, foundFor, lostBy } = useFailureRun(() => wanted.value)

const rows = computed(() =>
  listed.value
    .flatMap((failed) => {
      const lost = lostBy(failed)
      if (!plan.draft || lost === undefined || (onlyBad.value && lost.length === 0)) return []
      const name = failed.map((condition) => names.value?.condition(condition)).join(' and ')
      const { draft } = plan
      const kinds = failed.map((condition) => failingWord(failureKind(condition, draft)))
      return [{ failed, lost, name, kind: kinds.join(', ') }]
    })
    .sort((a, b) => b.lost.length - a.lost.length),
)
function mustSurvive(intentId: string, [first, ...others]: FailureScenario): boolean {
  const intent = plan.draft?.intents.find(({ id }) => id === intentId)
  if (others.length > 0 || !first || !plan.draft) return false
  const known = new Set(failableThings(plan.draft).map(({ id }) => id))
  return (
    intent?.survives.some((id) => conditionText(conditionOf(id, known)) === conditionText(first)) ?? false
  )
}
/** What each intent hangs on alone. */
const points = computed(() =>
  (plan.draft?.intents ?? []).map((intent) => ({
    id: intent.id,
    note: intent.note || intent.id,
    on: singles.value.filter((condition) =>
      foundFor([condition])?.some((lost) => lost.intentId === intent.id),
    ),
  })),
)
type Point = (typeof points.value)[number]
const MOST_NAMED = 6
function namesOf({ on }: Point): string {
  const named = on.slice(0, MOST_NAMED).map((condition) => names.value?.condition(condition))
  const more = on.length > MOST_NAMED ? ` and ${count(on.length - MOST_NAMED, 'more thing')}` : ''
  return `${named.join('; ')}${more}`
}
const pointColumns: readonly Column<Point>[] = [
  { key: 'intent', head: 'Intent', strong: true, get: ({ note }) => note },
  {
    key: 'count',
    head: 'Single points of failure',
    num: true,
    mono: true,
    get: ({ on }) => String(on.length),
  },
  { key: 'which', head: 'Which', get: namesOf },
]
const judged = computed((): Tried => {
  const tried = listed.value.filter(foundFor)
  return {
    part: part.value === 'pairs' ? 'pairs' : 'singles',
    intents: plan.draft?.intents.length ?? 0,
    tried: tried.length,
    total: listed.value.length,
    broken: tried.filter((scenario) => (lostBy(scenario)?.length ?? 0) > 0).length,
  }
})
const parts = computed(() => [
  { key: 'singles', name: 'Single failures', tally: String(singles.value.length) },
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
        <VSwitch v-model="onlyBad" label="Only what breaks something" />
        <VBtn v-if="running" @click="stop">Stop</VBtn>
        <VBtn v-else @click="tryAll(true)">Try again</VBtn>
      </span>
      <p v-if="part === 'kept'">What the server has tried and keeps, for whoever asks next.</p>
      <p v-else aria-live="polite">{{ triedWords(judged) }}</p>
    </header>
    <TabBar v-model="part" :parts="parts" label="Weathers" />
    <SavedRuns v-if="part === 'kept'" :pairs="[...chosen]" />
    <template v-else>
      <details v-if="part === 'pairs'" class="choose small">
        <summary>Pairs of {{ count(chosen.size, 'thing') }}: choose which</summary>
        <div>
          <VCheckbox
            v-for="condition in singles"
            :key="conditionText(condition)"
            :model-value="chosen.has(conditionText(condition))"
            @update:model-value="toggle(condition)"
            :label="names?.condition(condition)"
          />
        </div>
      </details>
      <VProgressLinear
        v-if="running"
        :model-value="judged.tried"
        :max="judged.total"
        color="primary"
        aria-label="Failures tried"
      />
      <ImpactMatrix
        :rows="rows"
        :intents="plan.draft.intents"
        :head="plan.draft.schedules.length > 0 ? 'Without, or at' : 'Without'"
        :label="part === 'pairs' ? 'What only the two together take' : 'What each failure takes'"
        :must-survive="mustSurvive"
        @look="look"
      >
        <template #empty>{{ noneListedWords(judged) }}</template>
      </ImpactMatrix>
    </template>
    <template v-if="part === 'singles'">
      <h2 class="points">What each intent hangs on</h2>
      <DataTable
        label="What each intent hangs on"
        :columns="pointColumns"
        :rows="points"
        empty="No intent yet: say on Rules who is meant to reach what."
      />
    </template>
  </section>
</template>

<style scoped>
.points {
  margin: 16px 0 6px;
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
