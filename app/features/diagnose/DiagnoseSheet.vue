<script setup lang="ts">
import type { FailureScenario } from '#core/queries'
import type { AcceptanceTest } from '#core/prove'
import { useDiagnosisRun, useSeenTests, useTestsOfCell } from './diagnosis-run'
import FactList from './FactList.vue'
import FoundExplanations from './FoundExplanations.vue'
import { observationNames, observedWords } from './words'
import { useAnalysis } from '~/stores/analysis'
import { useDiagnosis, type SeenTest } from '~/stores/diagnosis'
import { usePlan } from '~/stores/plan'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import { testWords } from '~/wording/proof'

/** What was seen on site, and the fewest and likeliest mistakes that explain it. */
const SEEN: readonly { readonly value: SeenTest; readonly title: string }[] = [
  { value: 'passed', title: 'passed' },
  { value: 'failed', title: 'failed' },
  { value: 'unknown', title: 'not known' },
]
const SEEN_WRONG = [
  { value: 0, title: 'none' },
  { value: 1, title: '1' },
  { value: 2, title: '2' },
]
const plan = usePlan()
const analysis = useAnalysis()
const told = useDiagnosis()
const { tests, seenOf, say, observed } = useSeenTests()
useTestsOfCell(() => tests.value)
const { progress, defect, stop, find } = useDiagnosisRun(() => observed.value)

const failed = computed(() => observed.value.filter(({ passed }) => !passed).length)
const total = computed(() => observed.value.length + told.facts.length)
const onlyFailed = ref(true)
const shown = computed(() =>
  onlyFailed.value
    ? tests.value.filter(({ id }) => seenOf(id) === 'failed' || told.changed.has(id))
    : tests.value,
)
const words = (test: AcceptanceTest) => (plan.draft ? testWords(test, plan.draft) : null)
const columns: readonly Column<AcceptanceTest>[] = [
  { key: 'title', head: 'Test', strong: true, get: (test) => words(test)?.title ?? '' },
  { key: 'expect', head: 'Must be seen', get: (test) => words(test)?.expect ?? '' },
  { key: 'seen', head: 'Seen', width: '152px', get: ({ id }) => seenOf(id) },
]
const nameOf = computed(() =>
  plan.draft ? observationNames(plan.draft, tests.value, told.facts) : (id: string) => id,
)

/** What was tried next, or looked at: it counts at once. */
async function answer(id: string, passed: boolean): Promise<void> {
  say(id, passed ? 'passed' : 'failed')
  await nextTick()
  find()
}
async function looked(got: string): Promise<void> {
  const next = told.found?.next
  if (!next || !('look' in next)) return
  told.facts = [...told.facts, { ...next.look, got }]
  await nextTick()
  find()
}
async function look(scenario: FailureScenario): Promise<void> {
  analysis.scenario = [...scenario]
  await navigateTo(`/sites/${plan.slug}/reach`)
}
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Diagnose</h1>
      <span class="tools">
        <VSelect label="May be seen wrong" v-model="told.ignore" :items="SEEN_WRONG" />
        <VBtn v-if="progress" @click="stop">Stop</VBtn>
        <VBtn v-else variant="flat" :disabled="failed === 0 && told.facts.length === 0" @click="find">
          Find explanations
        </VBtn>
      </span>
      <p>{{ observedWords(failed, observed.length - failed, told.facts.length) }}</p>
    </header>
    <VProgressLinear
      v-if="progress"
      :model-value="progress.tried"
      :max="progress.of"
      color="primary"
      aria-label="Mistakes tried"
    />
    <p v-if="defect" class="wrong-words" role="alert">A defect of Able Mast stopped it: {{ defect }}</p>
    <FoundExplanations
      v-if="told.found"
      :found="told.found"
      :plan="plan.draft"
      :name-of="nameOf"
      :total="total"
      @tried="answer"
      @looked="looked"
      @look="look"
    />
    <h2>What else was seen</h2>
    <FactList :plan="plan.draft" :facts="told.facts" @change="told.facts = $event" />
    <div class="row">
      <h2>Tests</h2>
      <VSwitch v-model="onlyFailed" label="Only what failed" />
    </div>
    <DataTable
      label="Tests"
      :columns="columns"
      :rows="shown"
      :trouble="({ id }) => seenOf(id) === 'failed'"
      empty="Nothing has failed. Show all tests to say what you see."
    >
      <template #seen="{ row }"
        ><VSelect
          class="seen"
          :model-value="seenOf(row.id)"
          :aria-label="`Seen: ${words(row)?.title}`"
          :items="SEEN"
          @update:model-value="say(row.id, $event)"
      /></template>
    </DataTable>
  </section>
</template>

<style scoped>
.seen {
  min-width: 136px;
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
}
.row {
  justify-content: space-between;
  margin: 14px 0 6px;
}
h2 {
  margin: 14px 0 6px;
}
.row h2 {
  margin: 0;
}
</style>
