<script setup lang="ts">
import type { FailureScenario } from '#core/queries'
import type { DiagnoseAnswer, DiagnoseRequest } from '#contracts/worker'
import { lookId, type Observed } from '#core/diagnose'
import type { AcceptanceTest } from '#core/prove'
import FactList from './FactList.vue'
import { useAnalysis } from '~/stores/analysis'
import { useDiagnosis, type SeenTest } from '~/stores/diagnosis'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { count } from '~/wording/findings'
import { answersTo, factWords, howToLook, lookWords, worthWords } from '~/wording/looks'
import { mistakeWords, sheetOfMistake } from '~/wording/mistakes'
import { testWords } from '~/wording/proof'

/** What was seen on site, and the fewest and likeliest mistakes that explain it. */
const plan = usePlan()
const site = useSite()
const analysis = useAnalysis()
const route = useRoute()

const told = useDiagnosis()
watch(
  () => plan.slug,
  (slug) => told.open(slug),
  { immediate: true },
)
const tests = computed(() => site.proof?.tests ?? [])
const recorded = (id: string): SeenTest => {
  const passed = site.passed.get(id)
  if (passed === undefined) return 'unknown'
  if (passed) return 'passed'
  return 'failed'
}
const seenOf = (id: string): SeenTest => told.changed.get(id) ?? recorded(id)
const say = (id: string, seen: SeenTest) => (told.changed = new Map(told.changed).set(id, seen))
// From the reach grid: what that cell's tests should show is taken as failed, to begin with.
watch(
  tests,
  (list) => {
    const [from, to] = String(route.query['cell'] ?? '').split('>')
    if (list.length === 0 || !from || !to || told.changed.size > 0) return
    told.changed = new Map(
      list
        .filter((t) => t.kind === 'passes' && t.from === from && t.to === to && t.under === '')
        .map((t) => [t.id, 'failed']),
    )
  },
  { immediate: true },
)
const SEEN: readonly { readonly value: SeenTest; readonly title: string }[] = [
  { value: 'passed', title: 'passed' },
  { value: 'failed', title: 'failed' },
  { value: 'unknown', title: 'not known' },
]
const observed = computed((): Observed[] =>
  tests.value
    .filter((t) => seenOf(t.id) !== 'unknown')
    .map((t) => ({ testId: t.id, passed: seenOf(t.id) === 'passed' })),
)
const failed = computed(() => observed.value.filter((o) => !o.passed).length)
const total = computed(() => observed.value.length + told.facts.length)
const onlyFailed = ref(true)
const shown = computed(() =>
  onlyFailed.value
    ? tests.value.filter((t) => seenOf(t.id) === 'failed' || told.changed.has(t.id))
    : tests.value,
)
const words = (test: AcceptanceTest | undefined) => (test && plan.draft ? testWords(test, plan.draft) : null)
const testOf = (id: string) => tests.value.find((t) => t.id === id)

const progress = ref<{ tried: number; of: number } | null>(null)
const defect = ref('')
let worker: Worker | undefined
function stop(): void {
  worker?.terminate()
  worker = undefined
  progress.value = null
}
function find(): void {
  if (!plan.draft) return
  stop()
  told.found = null
  defect.value = ''
  progress.value = { tried: 0, of: 1 }
  worker = new Worker(new URL('../../workers/diagnose.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = (event: MessageEvent<DiagnoseAnswer>) => {
    const answer = event.data
    if (answer.kind === 'progress') progress.value = { tried: answer.tried, of: answer.of }
    else {
      if (answer.kind === 'diagnosed') told.found = answer.diagnosis
      if (answer.kind === 'defect') defect.value = answer.message
      stop()
    }
  }
  worker.postMessage({
    kind: 'diagnose',
    plan: plan.draft,
    observed: observed.value,
    facts: [...told.facts],
    ignore: told.ignore,
  } satisfies DiagnoseRequest)
}
onBeforeUnmount(stop)
watch([observed, () => told.facts], () => (told.found = null))
/** What was tried next, or looked at: it counts at once. */
async function answer(id: string, passed: boolean): Promise<void> {
  say(id, passed ? 'passed' : 'failed')
  await nextTick()
  find()
}
/** What is looked at next has no answer until one is given. */
const nothingYet = null as string | null
async function looked(got: string | null): Promise<void> {
  const next = told.found?.next
  if (got === null || !next || !('look' in next)) return
  told.facts = [...told.facts, { ...next.look, got }]
  await nextTick()
  find()
}

async function look(failed: FailureScenario): Promise<void> {
  analysis.scenario = [...failed]
  await navigateTo(`/sites/${plan.slug}/reach`)
}
const against = (count: number) =>
  count === 0 ? `explains all ${total.value}` : `explains all but ${count} of ${total.value}`
/** A fact or a test that is not explained. */
const unexplained = (id: string) =>
  words(testOf(id))?.title ??
  told.facts.filter((f) => lookId(f) === id).map((f) => plan.draft && factWords(f, plan.draft))[0] ??
  id
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Diagnose</h1>
      <span class="tools">
        <VSelect
          label="May be seen wrong"
          v-model="told.ignore"
          :items="[
            { value: 0, title: 'none' },
            { value: 1, title: '1' },
            { value: 2, title: '2' },
          ]"
        />
        <VBtn v-if="progress" @click="stop">Stop</VBtn>
        <VBtn v-else variant="flat" :disabled="failed === 0 && told.facts.length === 0" @click="find">
          Find explanations
        </VBtn>
      </span>
      <p>
        {{ count(failed, 'test') }} failed and {{ observed.length - failed }} passed<template
          v-if="told.facts.length > 0"
          >, {{ count(told.facts.length, 'fact') }} besides</template
        >; all count. Mistakes are laid on the plan one by one, then in pairs, and what they would show is
        compared with what was seen.
      </p>
    </header>
    <VProgressLinear
      v-if="progress"
      :model-value="progress.tried"
      :max="progress.of"
      color="primary"
      aria-label="Mistakes tried"
    />
    <p v-if="defect" class="wrong-words" role="alert">A defect of Able Mast stopped it: {{ defect }}</p>
    <section v-if="told.found" aria-label="Explanations" class="found">
      <p v-if="told.found.foreseen.length > 0" class="small">
        {{ count(told.found.foreseen.length, 'failure') }} the plan itself foresees:
        {{
          told.found.foreseen
            .slice(0, 3)
            .map((id) => words(testOf(id))?.title)
            .join('; ')
        }}. The Lookout says why.
      </p>
      <p v-if="told.found.explanations.length === 0">
        {{
          told.found.tried === 1
            ? 'All of it is as planned: there is nothing to explain.'
            : 'No mistake of the catalogue explains what was seen, alone or in pairs. ' +
              'Check the observations, or let one be wrong.'
        }}
      </p>
      <div v-if="told.found.next" class="next">
        <p v-if="'testId' in told.found.next">
          <b>Try next: {{ words(testOf(told.found.next.testId))?.title }}.</b>
          {{ words(testOf(told.found.next.testId))?.expect }}
        </p>
        <p v-else>
          <b>Look next: {{ lookWords(told.found.next.look, plan.draft) }}.</b>
          {{ howToLook(told.found.next.look) }}
        </p>
        <p class="row-of">
          <template v-if="'testId' in told.found.next"
            ><VBtn @click="answer(told.found.next.testId, true)"> It passed</VBtn
            ><VBtn @click="answer(told.found.next.testId, false)"> It failed </VBtn></template
          >
          <VSelect
            v-else
            label="Seen"
            :model-value="nothingYet"
            :items="
              answersTo(told.found.next.look, plan.draft).map((a) => ({ value: a.value, title: a.text }))
            "
            @update:model-value="looked"
          />
          <span class="soft small">{{ worthWords(told.found.alike, told.found.next.left) }}</span>
        </p>
      </div>
      <p v-else-if="told.found.explanations.length > 1" class="small soft">
        Nothing that is open tells these apart: look at them in this order.
      </p>
      <ol>
        <li v-for="(e, i) in told.found.explanations" :key="i">
          <span class="n mono">{{ i + 1 }}</span>
          <div>
            <p v-for="(m, j) in e.mistakes" :key="j">
              <b>{{ j > 0 ? 'and: ' : '' }}{{ mistakeWords(m, plan.draft) }}</b>
              <VBtn v-if="m.failed.length > 0" variant="text" @click="look(m.failed)"> see the grid so </VBtn>
              <NuxtLink v-else-if="sheetOfMistake(m)" :to="`/sites/${plan.slug}/${sheetOfMistake(m)}`"
                >how it should be</NuxtLink
              >
            </p>
            <p class="small soft">
              {{ against(e.against.length)
              }}<template v-if="e.against.length > 0"
                >: not {{ e.against.slice(0, 3).map(unexplained).join('; ') }}</template
              >
            </p>
          </div>
        </li>
      </ol>
      <p v-if="told.found.alike > told.found.explanations.length" class="small soft">
        {{ told.found.alike }} explain it as well as the first; the most common are shown.
      </p>
      <p class="small soft">{{ told.found.tried.toLocaleString('en') }} sites tried.</p>
    </section>
    <h2>What else was seen</h2>
    <FactList :plan="plan.draft" :facts="told.facts" @change="told.facts = $event" />
    <div class="row">
      <h2>Tests</h2>
      <VCheckbox v-model="onlyFailed" label="only what failed" />
    </div>
    <VTable class="ruled">
      <thead>
        <tr>
          <th>Test</th>
          <th>Must be seen</th>
          <th>Seen</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="t in shown" :key="t.id" :class="{ trouble: seenOf(t.id) === 'failed' }">
          <td>
            <b>{{ words(t)?.title }}</b>
          </td>
          <td class="small">{{ words(t)?.expect }}</td>
          <td>
            <VSelect
              class="seen"
              :model-value="seenOf(t.id)"
              :aria-label="`Seen: ${words(t)?.title}`"
              :items="SEEN"
              @update:model-value="say(t.id, $event)"
            />
          </td>
        </tr>
        <tr v-if="shown.length === 0">
          <td colspan="3" class="soft">Nothing has failed. Untick to say what you see.</td>
        </tr>
      </tbody>
    </VTable>
  </section>
</template>

<style scoped>
.seen {
  min-width: 136px;
}
.tools label,
.row,
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
}
.row {
  justify-content: space-between;
  margin: 14px 0 6px;
}
.ruled td {
  white-space: normal;
}
.found {
  border: 1px solid var(--line);
  background: var(--panel);
  padding: 10px 14px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 28px 1fr;
  padding: 5px 0;
  border-bottom: 1px solid var(--hair);
}
.n {
  color: var(--soft);
}
.found > p {
  margin-top: 8px;
}
.row-of {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  margin-top: 4px;
}
.row-of select {
  width: auto;
  padding: 1px 6px;
}
h2 {
  margin: 14px 0 6px;
}
.row h2 {
  margin: 0;
}
.link,
li a {
  color: var(--deep);
  text-decoration: underline;
  margin-left: 8px;
  font-size: 13px;
}
.next {
  margin-top: 8px;
  padding: 6px 10px;
  border-left: 3px solid var(--magenta);
}
@media (max-width: 899px) {
  td select {
    min-height: 44px;
  }
}
</style>
