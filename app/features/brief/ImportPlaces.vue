<script setup lang="ts">
import { withPlaces } from '#core/edit'
import { readGeoJson } from '#core/ingest'
import { readJson } from '#contracts/json'
import { usePlan } from '~/stores/plan'
import ImportDialog from '~/ui/ImportDialog.vue'
import { count } from '~/wording/count'

/** Buildings and their positions from a map: a GeoJSON file of named points. */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const text = ref('')
const read = computed(() => {
  if (text.value.trim() === '') return null
  const json = readJson(text.value)
  return json.ok ? readGeoJson(json.value) : json
})
/** The plan as it would be. */
const laid = computed(() => (read.value?.ok && plan.draft ? withPlaces(plan.draft, read.value.value) : null))
const problems = computed(() =>
  [read.value, laid.value].flatMap((result) => (result && !result.ok ? result.problems : [])),
)
const found = computed(() => {
  if (!read.value?.ok || !laid.value?.ok) return null
  const all = read.value.value.length
  return { all, added: laid.value.value.brief.buildings.length - (plan.draft?.brief.buildings.length ?? 0) }
})
function lay(): void {
  const after = laid.value
  if (after?.ok) plan.change(`map imported: ${count(found.value?.all ?? 0, 'place')}`, '', () => after.value)
}
</script>

<template>
  <ImportDialog
    v-model="open"
    v-model:text="text"
    title="Import a map"
    placeholder='{ "type": "FeatureCollection", "features": ['
    :problems="problems"
    :offer="found ? `Import ${count(found.all, 'place')}` : ''"
    @lay="lay"
  >
    GeoJSON with a point for each building and its name in the property “name”. A building of that name gets
    the position; any other becomes one.
    <template #found>
      <p v-if="found" role="status">
        {{ count(found.all - found.added, 'building') }} of the plan, {{ found.added }} new.
      </p>
    </template>
  </ImportDialog>
</template>
