<script setup lang="ts">
import { mdiImageFilterHdr } from '@mdi/js'
import Papa from 'papaparse'
import { endBuildings } from '#core/brief'
import { profileOf, readProfile, type ElevationTile } from '#core/ingest'
import type { RadioLink } from '#core/radio'
import type { Problem } from '#core/util'
import { usePointEdits } from './bridge-columns'
import { usePlan } from '~/stores/plan'
import ImportDialog from '~/ui/ImportDialog.vue'
import { count } from '~/wording/count'

/** What was surveyed between the ends of a link: a list, or an elevation tile. It takes the place of what is there. */
const open = defineModel<boolean>({ required: true })
const { link } = defineProps<{ link: RadioLink }>()
const plan = usePlan()
const points = usePointEdits()
const text = ref('')
const typed = computed(() =>
  text.value.trim() === '' ? null : readProfile(Papa.parse<string[]>(text.value).data, link.lengthM),
)

// Heights between samples some 30 m apart say nothing finer.
const STEP_M = 30
const MOST_STEPS = 200
const ends = computed(() => {
  const [first, second] = plan.draft ? endBuildings(plan.draft, link.link) : [null, null]
  return first?.position && second?.position ? ([first.position, second.position] as const) : null
})
const tiles = shallowRef<ReturnType<typeof profileOf> | null>(null)
async function readTiles(files: File | File[] | null): Promise<void> {
  const list = [files ?? []].flat()
  tiles.value = null
  if (list.length === 0 || !ends.value) return
  const [{ placesBetween }, { readTile }] = await Promise.all([
    import('#core/geodesy'),
    import('./elevation-file'),
  ])
  const steps = Math.max(1, Math.min(MOST_STEPS, Math.round(link.lengthM / STEP_M)))
  const places = placesBetween(...ends.value, steps).map((place) => ({
    ...place,
    atM: Math.min(place.atM, link.lengthM),
  }))
  const problems: Problem[] = []
  const found: ElevationTile[] = []
  for (const file of list) {
    const tile = await readTile(file, places)
    if (tile.ok) found.push(tile.value)
    else problems.push(...tile.problems)
  }
  tiles.value = problems.length > 0 ? { ok: false, problems } : profileOf(found, places)
}

const read = computed(() => typed.value ?? tiles.value)
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
    <template #fields>
      <VFileInput
        v-if="ends"
        label="Or elevation tiles, .hgt or .tif"
        multiple
        :prepend-icon="''"
        :prepend-inner-icon="mdiImageFilterHdr"
        accept=".hgt,.tif,.tiff"
        hint="Ground as satellites saw it, every 30 m: trees, houses and masts are yours to add."
        persistent-hint
        @update:model-value="readTiles"
      />
      <p v-else class="small soft">
        With the positions of both buildings, in the Brief, the ground can be read from elevation tiles.
      </p>
    </template>
  </ImportDialog>
</template>
