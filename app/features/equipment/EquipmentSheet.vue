<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { freshId } from '#core/edit'
import { MODELS } from '#core/queries'
import type { Model } from '#core/schema'
import ListTable from '~/ui/ListTable.vue'
import { useOpened } from '~/ui/opened'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { useBriefList } from '~/features/brief/columns'
import { useEquipmentColumns } from './columns'
import ModelTable from './ModelTable.vue'
import { useScan } from './scan'
import { useActions } from '~/shell/actions'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'

const ImportEquipment = defineAsyncComponent(() => import('./ImportEquipment.vue'))

/** The boxes and their labels, what to do with them on the bench, and the models they are of. */
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const { place } = usePointer()
const shown = ref('boxes')
const importing = ref(false)
const wasImporting = useOpened(importing)

useActions({ 'import-equipment': () => (importing.value = true) })

const models = computed((): readonly Model[] => [
  ...(plan.draft?.models ?? []),
  ...MODELS.filter((m) => !plan.draft?.models.some((own) => own.name === m.name)),
])
const boxes = computed(() => plan.draft?.brief.equipment ?? [])
const { add, remove } = useBriefList('equipment')
const columns = useEquipmentColumns(() => models.value.map((m) => m.name))
const withoutBox = computed(() =>
  (plan.draft?.devices ?? []).filter(
    (device) =>
      device.kind !== 'hosts' &&
      device.kind !== 'cloud' &&
      device.model !== '' &&
      device.kind !== 'unmanaged' &&
      device.kind !== 'injector' &&
      !boxes.value.some((b) => b.deviceId === device.id),
  ),
)

const findings = computed(() => (analysis.analysis?.findings ?? []).filter((f) => f.code === 'D04'))
const trouble = (row: { id: string }, key: string) =>
  findings.value.some((f) => f.place[2] === row.id && f.place[3] === key)
const focusAt = shallowRef<{ row: string; column: string } | null>(null)
watch(
  place,
  (path) => {
    if (path[0] !== 'brief' || path[1] !== 'equipment') return
    shown.value = 'boxes'
    focusAt.value = { row: path[2] ?? '', column: path[3] ?? 'serial' }
  },
  { immediate: true },
)

const addBox = () =>
  add('box added', {
    id: freshId(boxes.value, 'box'),
    model: withoutBox.value[0]?.model ?? '',
    serial: '',
    mac: null,
    deviceId: withoutBox.value[0]?.id ?? null,
  })

const scan = reactive(useScan())

const parts = computed(() => [
  { key: 'boxes', name: 'Boxes', tally: String(boxes.value.length) },
  { key: 'models', name: 'Models', tally: String(models.value.length) },
])
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Equipment</h1>
      <span class="tools">
        <UndoRedo />
        <VBtn :href="`/api/sites/${plan.slug}/export/equipment.csv`" download :prepend-icon="mdiDownload"
          >Export CSV</VBtn
        >
        <VBtn v-if="session.edits" @click="importing = true">Import CSV</VBtn>
      </span>
      <p>
        What is on the labels, and which device of the plan each box becomes. What is done with them on the
        bench: <NuxtLink :to="`/sites/${plan.slug}/run-sheet`">Run sheet</NuxtLink>, Bench.
      </p>
    </header>
    <TabBar v-model="shown" :parts="parts" label="Parts of the equipment" />

    <div v-if="shown === 'boxes'" role="tabpanel" aria-labelledby="tab-boxes">
      <form v-if="session.edits" class="scan" @submit.prevent="scan.take()">
        <VTextField
          v-model="scan.text"
          class="mono"
          label="Scan or type a label"
          autocomplete="off"
          spellcheck="false"
          placeholder="serial, MAC, or the text of a QR code"
        />
        <VBtn type="submit">Add box</VBtn>
        <span class="small" aria-live="polite"
          ><span v-if="scan.wrong" class="wrong-words">{{ scan.wrong }}</span
          ><span v-else class="soft">{{ scan.said }}</span></span
        >
      </form>
      <ListTable
        title="Boxes"
        :columns="columns"
        :rows="boxes"
        :name-of="(b) => b.serial || b.model || 'box'"
        add-words="Add a box"
        empty="No box yet. Scan one, or import a CSV file."
        :focus-at="focusAt"
        :trouble="trouble"
        @add="addBox"
        @remove="(b) => remove(b.id, `box ${b.serial} removed`)"
      />
      <p v-if="withoutBox.length > 0" class="small soft">
        Without a box: {{ withoutBox.map((d) => `${d.name} (${d.model})`).join(', ') }}.
      </p>
    </div>

    <div v-else role="tabpanel" aria-labelledby="tab-models">
      <ModelTable :models="models" />
    </div>
    <ImportEquipment v-if="session.edits && wasImporting" v-model="importing" />
  </section>
</template>

<style scoped>
.scan {
  display: grid;
  grid-template-columns: minmax(200px, 420px) auto 1fr;
  gap: 8px;
  align-items: center;
}
@media (max-width: 899px) {
  .scan {
    grid-template-columns: 1fr auto;
  }
}
</style>
