<script setup lang="ts">
import IntentGrid from './IntentGrid.vue'
import { useIntentColumns, useIntentWhen } from './columns'
import { usePolicyLists } from './policy-edits'
import { useSurvivesColumn } from './survives-column'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useOpened } from '~/ui/opened'
import RemovableTable from '~/ui/RemovableTable.vue'

const InferIntentsDialog = defineAsyncComponent(() => import('./InferIntentsDialog.vue'))

/** The intents of the grid's pairs, or all of them with all they say. */
const asGrid = defineModel<boolean>('asGrid', { required: true })
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const lists = usePolicyLists()
const intentColumns = useIntentColumns()
const intentWhen = useIntentWhen()
const survives = useSurvivesColumn()
const columns = computed(() => [...intentColumns, ...intentWhen(), survives])
const missed = (row: { readonly id: string }, key: string) =>
  key === 'note' &&
  (analysis.analysis?.findings ?? []).some(
    (f) => f.code === 'P01' && f.place[0] === 'intents' && f.place[1] === row.id,
  )
const inferring = ref(false)
const wasInferring = useOpened(inferring)
async function add(): Promise<void> {
  const first = plan.draft?.networks[0]
  asGrid.value = false
  await nextTick()
  if (first) lists.addIntent({ kind: 'network', id: first.id })
}
defineExpose({ add })
</script>

<template>
  <Teleport defer to="#rules-tools">
    <VBtn @click="asGrid = !asGrid">
      {{ asGrid ? 'As a list' : 'As a grid' }}
    </VBtn>
    <VBtn v-if="session.edits" @click="inferring = true">From rules</VBtn>
    <VBtn v-if="session.edits" @click="add">Add an intent</VBtn>
  </Teleport>
  <IntentGrid v-if="asGrid" />
  <RemovableTable
    v-else
    :columns="columns"
    :rows="plan.draft?.intents ?? []"
    label="Intents"
    :name-of="(i) => i.note || i.id"
    :trouble="missed"
    @remove="lists.removeIntent"
  >
    <template #empty>Nothing is meant to pass yet. Whatever no intent names must not.</template>
  </RemovableTable>
  <InferIntentsDialog v-if="session.edits && wasInferring" v-model="inferring" />
</template>
