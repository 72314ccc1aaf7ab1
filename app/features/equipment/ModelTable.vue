<script setup lang="ts">
import type { Model } from '#core/schema'
import { portWords, powerWords } from './words'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import { useOpened } from '~/ui/opened'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'

/** The models that devices can be of; those made for this plan can be changed. */
const { models } = defineProps<{ models: readonly Model[] }>()
const CustomModelDialog = defineAsyncComponent(() => import('./CustomModelDialog.vue'))
const plan = usePlan()
const session = useSession()

interface ModelRow {
  readonly id: string
  readonly model: Model
  /** Made for this plan: it can be changed. */
  readonly own: boolean
}
const rows = computed((): readonly ModelRow[] =>
  models.map((model) => ({
    id: model.name,
    model,
    own: plan.draft?.models.some(({ name }) => name === model.name) ?? false,
  })),
)
const columns: readonly Column<ModelRow>[] = [
  { key: 'model', head: 'Model', mono: true, strong: true, get: ({ model }) => model.name },
  {
    key: 'label',
    head: 'What it is',
    get: ({ model }) => (model.minFirmware ? `${model.label}, from ${model.minFirmware}` : model.label),
  },
  { key: 'ports', head: 'Ports', get: ({ model }) => model.ports.map(portWords).join('; ') },
  { key: 'power', head: 'Power', get: ({ model }) => powerWords(model) },
  {
    key: 'factory',
    head: 'From the factory',
    get: ({ model }) =>
      'address' in model.factory ? `${model.factory.kind} ${model.factory.address}` : 'takes a lease',
  },
  {
    key: 'boot',
    head: 'Boot, adoption',
    get: ({ model }) => `${model.bootS} s${model.adoptS > 0 ? `, ${model.adoptS} s` : ''}`,
  },
  { key: 'acts', head: '', num: true, get: () => '' },
]

const chosen = ref('')
const editing = ref(false)
const wasEditing = useOpened(editing)
function openModel(name: string): void {
  chosen.value = name
  editing.value = true
}
const removeModel = (name: string) =>
  plan.edit(
    `model ${name} removed`,
    '',
    (draft) => void (draft.models = draft.models.filter((m) => m.name !== name)),
  )
</script>

<template>
  <div class="under">
    <h2>Models</h2>
    <VBtn v-if="session.edits" @click="openModel('')">Add a model</VBtn>
  </div>
  <DataTable label="Models" :columns="columns" :rows="rows" empty="No model.">
    <template #acts="{ row }"
      ><template v-if="session.edits && row.own"
        ><VBtn variant="text" @click="openModel(row.model.name)">
          Change<span class="sr"> {{ row.model.name }}</span>
        </VBtn>
        <VBtn variant="text" @click="removeModel(row.model.name)">
          Remove<span class="sr"> {{ row.model.name }}</span>
        </VBtn></template
      ></template
    >
  </DataTable>
  <CustomModelDialog v-if="session.edits && wasEditing" v-model="editing" :name="chosen" />
</template>

<style scoped>
.under {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 4px 0 6px;
}
</style>
