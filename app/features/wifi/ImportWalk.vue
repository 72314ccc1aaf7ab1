<script setup lang="ts">
import Papa from 'papaparse'
import { readWalk, type RoomReading } from '#core/ingest'
import { levelWords } from './words'
import { usePlan } from '~/stores/plan'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import ImportDialog from '~/ui/ImportDialog.vue'
import { count } from '~/wording/count'

/** What was read on a walk through the rooms; it takes the place of what is predicted there. */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const text = ref('')
const read = computed(() =>
  text.value.trim() === ''
    ? null
    : readWalk(Papa.parse<string[]>(text.value).data, plan.draft?.brief.rooms ?? []),
)
const problems = computed(() => (read.value && !read.value.ok ? read.value.problems : []))
const rows = computed(() =>
  (read.value?.ok ? read.value.value : []).map((reading) => ({ id: reading.roomId, ...reading })),
)
const before = ({ roomId }: RoomReading) =>
  plan.draft?.brief.rooms.find(({ id }) => id === roomId)?.readDbm ?? null
const columns: readonly Column<RoomReading>[] = [
  { key: 'room', head: 'Room', strong: true, get: ({ name }) => name },
  { key: 'read', head: 'Least read', num: true, mono: true, get: ({ dBm }) => levelWords(dBm) },
  { key: 'readings', head: 'Readings', num: true, mono: true, get: ({ readings }) => String(readings) },
  { key: 'before', head: 'Before', num: true, mono: true, get: (row) => levelWords(before(row)) },
]
function lay(): void {
  plan.edit(`walk imported: ${count(rows.value.length, 'room')}`, '', ({ brief }) => {
    for (const room of brief.rooms) {
      const reading = rows.value.find(({ roomId }) => roomId === room.id)
      if (reading) room.readDbm = reading.dBm
    }
  })
}
</script>

<template>
  <ImportDialog
    v-model="open"
    v-model:text="text"
    title="Import a walk"
    placeholder="Wet laboratory,-67"
    :problems="problems"
    :offer="rows.length > 0 ? `Import ${count(rows.length, 'room')}` : ''"
    @lay="lay"
  >
    A row for each stop: the room as it is called in the plan, and what was read there in dBm or %. Of a room
    the least counts.
    <template #found
      ><DataTable v-if="rows.length > 0" label="The walk" :columns="columns" :rows="rows" empty="No reading."
    /></template>
  </ImportDialog>
</template>
