<script setup lang="ts">
import Papa from 'papaparse'
import { readProfile } from '#core/ingest'
import type { RadioLink } from '#core/radio'
import { usePointEdits } from './bridge-columns'
import ImportDialog from '~/ui/ImportDialog.vue'
import { count } from '~/wording/count'

/** What was surveyed between the ends of a link, from a spreadsheet; it takes the place of what is there. */
const open = defineModel<boolean>({ required: true })
const { link } = defineProps<{ link: RadioLink }>()
const points = usePointEdits()
const text = ref('')
const read = computed(() =>
  text.value.trim() === '' ? null : readProfile(Papa.parse<string[]>(text.value).data, link.lengthM),
)
const problems = computed(() => (read.value && !read.value.ok ? read.value.problems : []))
const rows = computed(() => (read.value?.ok ? read.value.value : []))
function lay(): void {
  points.replace(link, rows.value)
}
</script>

<template>
  <ImportDialog
    v-model="open"
    v-model:text="text"
    title="Import a survey"
    placeholder="60,4,2"
    :problems="problems"
    :offer="rows.length > 0 ? `Import ${count(rows.length, 'point')}` : ''"
    @lay="lay"
  >
    A row for each point: metres from {{ link.names[0] }}, height of the ground, and height of what stands on
    it. The points that are there now are replaced.
  </ImportDialog>
</template>
