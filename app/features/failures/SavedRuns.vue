<script setup lang="ts">
import type { Run, RunLine } from '#contracts/api'
import type { Problem } from '#core/util'
import { formatServices } from '#core/filter'
import { singleFailuresByText } from '#core/reachability'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { timeText } from '~/wording/adoption'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import { count } from '~/wording/findings'
import { sentenceOf } from '~/wording/problems'
import { namesIn } from '~/wording/names'

/** What-if runs that the server does and keeps: asked for, watched, stopped, opened. */
const props = defineProps<{ pairs: readonly string[] }>()
const plan = usePlan()
const site = useSite()
const session = useSession()
const problems = shallowRef<readonly Problem[]>([])
const opened = shallowRef<Run | null>(null)
const names = computed(() => plan.draft && namesIn(plan.draft))
onMounted(() => void site.readRuns())

async function ask(method: 'POST' | 'DELETE', path: string, body?: object): Promise<void> {
  const answer = await api<RunLine[]>(method, `sites/${plan.slug}/runs${path}`, body)
  if (answer.ok) site.runs = answer.value
  problems.value = answer.ok ? [] : answer.refusal.problems
}
async function start(kind: 'singles' | 'pairs'): Promise<void> {
  await plan.flush()
  if (plan.saved)
    await ask('POST', '', {
      kind,
      things: kind === 'pairs' ? props.pairs : [],
      revision: plan.saved.revision,
    })
}
async function open(run: RunLine): Promise<void> {
  if (opened.value?.id === run.id) return void (opened.value = null)
  const answer = await api<Run>('GET', `sites/${plan.slug}/runs/${run.id}`)
  if (answer.ok) opened.value = answer.value
  else problems.value = answer.refusal.problems
}
const isOpen = (run: RunLine) => run.state === 'waiting' || run.state === 'running'
const STATE: Readonly<Record<RunLine['state'], string>> = {
  waiting: 'waits for its turn',
  running: 'running',
  done: 'done',
  stopped: 'stopped',
  failed: 'failed: ask again',
}
const what = (run: RunLine) =>
  run.kind === 'singles' ? 'every single failure' : `pairs of ${count(run.things.length, 'thing')}`
interface Row {
  readonly id: string
  readonly run: RunLine
}
const rows = computed((): readonly Row[] => (site.runs ?? []).map((run) => ({ id: String(run.id), run })))
const columns: readonly Column<Row>[] = [
  { key: 'revision', head: 'Rev', num: true, mono: true, get: ({ run }) => String(run.revision) },
  { key: 'what', head: 'What', get: ({ run }) => what(run) },
  { key: 'asked', head: 'Asked', get: ({ run }) => `${run.askedBy}, ${timeText(run.askedAt)}` },
  { key: 'state', head: 'State', get: ({ run }) => STATE[run.state] },
  { key: 'tried', head: 'Tried', num: true, mono: true, get: ({ run }) => `${run.tried} of ${run.total}` },
  { key: 'acts', head: '', num: true, get: () => '' },
]
const conditions = computed(() => plan.draft && singleFailuresByText(plan.draft))
/** What failed in a run: by its name, or by its text where the plan has it no more. */
function nameOf(text: string): string {
  const condition = conditions.value?.get(text)
  return condition && names.value ? names.value.condition(condition) : text
}
const noteOf = (id: string) => plan.draft?.intents.find((i) => i.id === id)?.note ?? id
</script>

<template>
  <div>
    <p class="acts">
      <template v-if="session.works">
        <VBtn @click="start('singles')">Try every single failure</VBtn>
        <VBtn :disabled="pairs.length < 2" @click="start('pairs')"> Try the chosen pairs </VBtn>
      </template>
      <span class="soft small"
        >Runs on the server, of the saved revision; one may close the page meanwhile.</span
      >
    </p>
    <p v-for="(p, i) in problems" :key="i" class="wrong-words" role="alert">{{ sentenceOf(p) }}</p>
    <DataTable
      label="Kept runs"
      :columns="columns"
      :rows="rows"
      :opened="String(opened?.id ?? '')"
      empty="No run yet."
    >
      <template #what="{ row: { run } }"
        ><VBtn
          v-if="run.state === 'done'"
          variant="text"
          :aria-expanded="opened?.id === run.id"
          @click="open(run)"
        >
          {{ what(run) }}</VBtn
        ><template v-else>{{ what(run) }}</template></template
      >
      <template #acts="{ row: { run } }"
        ><VBtn v-if="isOpen(run) && session.works" @click="ask('DELETE', `/${run.id}`)">
          Stop
        </VBtn></template
      >
      <template v-if="opened" #detail>
        <p v-if="opened.result?.length === 0" class="soft">Nothing that was tried breaks an intent.</p>
        <ul v-else>
          <li v-for="row in opened.result" :key="row.things.join()">
            <b>{{ row.things.map(nameOf).join(' and ') }}</b>:
            <span v-for="(l, i) in row.lost" :key="l.intentId" :title="formatServices(l.services)"
              >{{ noteOf(l.intentId) }}{{ i < row.lost.length - 1 ? '; ' : '' }}</span
            >
          </li>
        </ul>
      </template>
    </DataTable>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-bottom: 8px;
}
ul {
  margin: 0;
  padding-left: 16px;
}
</style>
