<script setup lang="ts">
import { withPlaces } from '#core/edit'
import { MOST_PLACES, readGeoJson } from '#core/ingest'
import { problem } from '#core/util'
import { readJson } from '#contracts/json'
import { usePlan } from '~/stores/plan'
import AppDialog from '~/ui/AppDialog.vue'
import ImportProblems from '~/ui/ImportProblems.vue'
import ListInput from '~/ui/ListInput.vue'
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
const found = computed(() => (read.value?.ok ? read.value.value : []))
const buildings = computed(() => plan.draft?.brief.buildings ?? [])
const known = computed(() => {
  const names = new Set(buildings.value.map(({ name }) => name))
  return found.value.filter(({ name }) => names.has(name)).length
})
const isTooMany = computed(() => buildings.value.length + found.value.length - known.value > MOST_PLACES)
const problems = computed(() => {
  if (isTooMany.value) return [problem('too-many-places', '', { most: MOST_PLACES })]
  return read.value && !read.value.ok ? read.value.problems : []
})
const places = computed(() => (isTooMany.value ? [] : found.value))
function lay(): void {
  if (places.value.length === 0) return
  plan.change(`${count(places.value.length, 'place')} of a map`, '', (now) => withPlaces(now, places.value))
  open.value = false
  text.value = ''
}
</script>

<template>
  <AppDialog v-model="open" title="Read a map" @submit="lay">
    <p class="soft">
      GeoJSON with a point for each building and its name in the property “name”. A building of that name gets
      the position; any other becomes one.
    </p>
    <ListInput v-model="text" placeholder='{ "type": "FeatureCollection", "features": [' />
    <ImportProblems :problems="problems" />
    <p v-if="places.length > 0" role="status">
      {{ count(known, 'building') }} that {{ known === 1 ? 'is' : 'are' }} there,
      {{ places.length - known }} new.
    </p>
    <template #actions>
      <VBtn variant="flat" :disabled="places.length === 0" @click="lay">
        {{ places.length > 0 ? `Take ${count(places.length, 'place')}` : 'Nothing to apply' }}
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template>
  </AppDialog>
</template>
