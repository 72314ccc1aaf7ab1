<script setup lang="ts">
import type { Revision } from '#contracts/answers'
import type { RevisionLine } from '#contracts/api'
import type { Problem } from '#core/util'
import { changesBetween } from '#core/edit'
import type { FlowChange } from '#core/reachability'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import FlowChanges from '~/ui/FlowChanges.vue'
import { useAnalysis } from '~/stores/analysis'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { timeText } from '~/wording/adoption'
import { changeText } from '~/wording/changes'
import { sentenceOf } from '~/wording/problems'
import ReadingNotice from '~/ui/ReadingNotice.vue'

const plan = usePlan()
const analysis = useAnalysis()
const session = useSession()
const lines = shallowRef<readonly RevisionLine[] | null>(null)
const opened = shallowRef<Revision | null>(null)
const problems = shallowRef<readonly Problem[]>([])

watch(
  () => plan.saved?.revision,
  async () => {
    const answer = await api<RevisionLine[]>('GET', `sites/${plan.slug}/revisions`)
    if (answer.ok) lines.value = answer.value
    else problems.value = answer.refusal.problems
  },
  { immediate: true },
)

const rows = computed(() => (lines.value ?? []).map((line) => ({ ...line, id: String(line.revision) })))
const columns: readonly Column<RevisionLine>[] = [
  {
    key: 'revision',
    head: 'Rev',
    num: true,
    mono: true,
    width: '64px',
    get: (line) => String(line.revision),
  },
  { key: 'at', head: 'When', mono: true, width: '150px', get: (line) => timeText(line.at) },
  { key: 'author', head: 'Who', get: (line) => line.author },
  { key: 'words', head: 'What', get: (line) => line.words || 'changed' },
]

async function open(revision: number): Promise<void> {
  if (opened.value?.line.revision === revision) {
    opened.value = null
    return
  }
  const answer = await api<Revision>('GET', `sites/${plan.slug}/revisions/${revision}`)
  if (answer.ok) opened.value = answer.value
  else problems.value = answer.refusal.problems
}
async function restore(revision: number): Promise<void> {
  problems.value = await plan.restore(revision)
  if (problems.value.length === 0) opened.value = null
}
const sentences = computed(() => {
  const revision = opened.value
  if (!revision) return []
  if (!revision.before)
    return [
      `The plan as it was first kept: ${revision.plan.networks.length} networks, ` +
        `${revision.plan.devices.length} devices, ${revision.plan.links.length} cables.`,
    ]
  const plans = [revision.plan, revision.before]
  return changesBetween(revision.before, revision.plan).map((c) => changeText(c, plans))
})
const meaning = shallowRef<readonly FlowChange[] | null>(null)
watch(opened, async (revision) => {
  meaning.value = null
  const flows = revision?.before ? await analysis.difference(revision.before, revision.plan) : null
  if (opened.value === revision) meaning.value = flows
})
const sinceThen = computed(() =>
  opened.value && plan.saved ? changesBetween(opened.value.plan, plan.saved.plan).length : 0,
)
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Revisions</h1>
      <p>
        Every change that was kept. Restoring makes an old revision the newest; nothing in between is lost.
      </p>
    </header>
    <p v-for="(p, i) in problems" :key="i" class="wrong-words" role="alert">{{ sentenceOf(p) }}</p>
    <ReadingNotice v-if="!lines && problems.length === 0" words="Reading the revisions" />
    <DataTable
      v-if="lines"
      label="Revisions"
      :columns="columns"
      :rows="rows"
      :opened="String(opened?.line.revision ?? '')"
      empty="Nothing was kept yet."
    >
      <template #words="{ row }"
        ><VBtn
          variant="text"
          :aria-expanded="opened?.line.revision === row.revision"
          @click="open(row.revision)"
        >
          {{ row.words || 'changed' }}
        </VBtn></template
      >
      <template v-if="opened" #detail="{ row }">
        <ul>
          <li v-for="(s, i) in sentences" :key="i">{{ s }}</li>
        </ul>
        <FlowChanges
          v-if="meaning"
          :flows="meaning"
          :plan="opened.plan"
          none="No flow opened or closed by it."
          some="What it opened and closed:"
        />
        <p v-if="row.revision !== plan.saved?.revision" class="acts">
          <span class="soft small">{{
            sinceThen === 0
              ? 'The plan is the same as this revision.'
              : `${sinceThen} ${sinceThen === 1 ? 'change' : 'changes'} since.`
          }}</span>
          <VBtn v-if="session.edits" :disabled="sinceThen === 0" @click="restore(row.revision)">
            Restore revision {{ row.revision }}
          </VBtn>
        </p>
      </template>
    </DataTable>
  </section>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 16px;
}
.acts {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 8px;
}
</style>
