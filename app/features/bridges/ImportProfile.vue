<script setup lang="ts">
import Papa from 'papaparse'
import { readProfile } from '#core/ingest'
import type { RadioLink } from '#core/radio'
import { usePointEdits } from './bridge-columns'
import AppDialog from '~/ui/AppDialog.vue'
import ImportProblems from '~/ui/ImportProblems.vue'
import ListInput from '~/ui/ListInput.vue'
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
  if (rows.value.length === 0) return
  points.replace(link, rows.value)
  open.value = false
  text.value = ''
}
</script>

<template>
  <AppDialog v-model="open" title="Import a survey" @submit="lay">
    <p class="soft">
      A row for each point: metres from {{ link.names[0] }}, height of the ground, and height of what stands
      on it. The points that are there now are replaced.
    </p>
    <ListInput v-model="text" placeholder="60,4,2" />
    <ImportProblems :problems="problems" />
    <template #actions>
      <VBtn variant="flat" :disabled="rows.length === 0" @click="lay">
        {{ rows.length > 0 ? `Import ${count(rows.length, 'point')}` : 'Nothing to apply' }}
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template>
  </AppDialog>
</template>
