<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import Papa from 'papaparse'
import { readEquipmentList, type EquipmentRow } from '#core/ingest'
import { freshId } from '#core/edit'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import ListInput from '~/ui/ListInput.vue'
import { usePlan } from '~/stores/plan'
import { count } from '~/wording/findings'
import { reasonOf, sentenceOf } from '~/wording/problems'

/** Serials and MACs from a list: every bad row is marked; what is right is taken whole, or alone when asked for. */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const text = ref('')

const cells = computed(() => Papa.parse<string[]>(text.value.trim(), { skipEmptyLines: false }).data)
const rows = computed(() => {
  if (text.value.trim() === '' || !plan.draft) return []
  return readEquipmentList(cells.value, plan.draft.brief.equipment, plan.draft.devices)
})
const good = computed(() => rows.value.filter((r) => r.problems.length === 0))
const bad = computed(() => rows.value.filter((r) => r.problems.length > 0))
const deviceName = (id: string | null) => plan.draft?.devices.find((d) => d.id === id)?.name ?? '—'
const shown = computed(() => rows.value.map((row) => ({ ...row, id: String(row.row) })))
const wrongWords = ({ problems }: EquipmentRow) =>
  problems
    .map((wrong) =>
      wrong.place.includes('column')
        ? `${/"(.+)"/.exec(wrong.place)?.[1]}: ${reasonOf(wrong)}`
        : sentenceOf(wrong),
    )
    .join('; ')
const columns: readonly Column<EquipmentRow>[] = [
  { key: 'row', head: 'Row', num: true, mono: true, get: ({ row }) => String(row) },
  { key: 'model', head: 'Model', get: ({ model }) => model || '—' },
  { key: 'serial', head: 'Serial', mono: true, get: ({ serial }) => serial || '—' },
  { key: 'mac', head: 'MAC', mono: true, get: ({ mac }) => mac ?? '—' },
  { key: 'becomes', head: 'Becomes', get: ({ deviceId }) => deviceName(deviceId) },
  { key: 'wrong', head: 'What is wrong', get: wrongWords },
]

function take(boxes: readonly EquipmentRow[]): void {
  plan.edit(`${count(boxes.length, 'box', 'boxes')} read from a list`, '', (draft) => {
    for (const { model, serial, mac, deviceId } of boxes) {
      const planned = draft.devices.find((d) => d.id === deviceId)?.model ?? ''
      draft.brief.equipment.push({
        id: freshId(draft.brief.equipment, 'box'),
        model: model || planned,
        serial,
        mac,
        deviceId,
      })
    }
  })
}
function takeAll(): void {
  take(rows.value)
  open.value = false
  text.value = ''
}
/** Takes what is right; the rows that are not stay here to be put right. */
function takeGood(): void {
  const [heading = []] = cells.value
  const left = bad.value.map(({ row }) => cells.value[row - 1] ?? [])
  take(good.value)
  text.value = Papa.unparse([heading, ...left])
}
</script>

<template>
  <AppDialog v-model="open" :width="900" title="Import an equipment list">
    <p class="soft">
      CSV with a heading that names serial, and model, MAC and device where they are known. A device is named
      as in the plan.
    </p>
    <ListInput v-model="text" placeholder="model,serial,mac,device" />
    <p v-if="bad.length > 0" class="wrong-words" role="alert">
      {{ count(bad.length, 'row') }} cannot be right.
      {{ good.length > 0 ? 'Put that right, or import the others alone.' : 'Nothing can be imported.' }}
    </p>
    <DataTable
      v-if="rows.length > 0"
      label="The list"
      :columns="columns"
      :rows="shown"
      :trouble="({ problems }) => problems.length > 0"
      empty="No row."
      ><template #wrong="{ row }"
        ><span class="wrong-words">{{ wrongWords(row) }}</span></template
      ></DataTable
    >
    <template #actions>
      <VBtn variant="flat" :disabled="rows.length === 0 || bad.length > 0" @click="takeAll">
        {{ rows.length === 0 ? 'Nothing to import' : `Import ${count(rows.length, 'box', 'boxes')}` }}
      </VBtn>
      <VBtn v-if="bad.length > 0 && good.length > 0" @click="takeGood">
        Import {{ count(good.length, 'good row') }}, keep {{ bad.length }} here
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>
