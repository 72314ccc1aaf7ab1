<script setup lang="ts">
import { mdiImageFilterHdr } from '@mdi/js'
import Papa from 'papaparse'
import { endBuildings } from '#core/brief'
import { profileOf, readProfile, stepsOnWay, type ElevationTile } from '#core/ingest'
import type { RadioLink } from '#core/radio'
import { problem, refuse, type Problem, type Result } from '#core/util'
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

/** A way crosses the corner of four tiles at most. */
const MOST_TILES = 4
const ends = computed(() => {
  const [first, second] = plan.draft ? endBuildings(plan.draft, link.link) : [null, null]
  return first?.position && second?.position ? ([first.position, second.position] as const) : null
})
const files = shallowRef<File[]>([])
const ground = shallowRef<ReturnType<typeof profileOf> | null>(null)
/** The ground between two places, as some files have it. */
async function groundIn(
  chosen: readonly File[],
  [first, second]: NonNullable<typeof ends.value>,
): Promise<ReturnType<typeof profileOf>> {
  if (chosen.length > MOST_TILES) return refuse(problem('too-many-tiles', '', { most: MOST_TILES }))
  const [{ placesBetween }, { readTile }] = await Promise.all([
    import('#core/geodesy'),
    import('./elevation-file'),
  ])
  const places = placesBetween(first, second, stepsOnWay(link.lengthM)).map((place) => ({
    ...place,
    atM: Math.min(place.atM, link.lengthM),
  }))
  const tiles: Result<ElevationTile>[] = []
  for (const file of chosen) tiles.push(await readTile(file, places))
  const problems = tiles.flatMap((tile): readonly Problem[] => (tile.ok ? [] : tile.problems))
  const read = tiles.flatMap((tile) => (tile.ok ? [tile.value] : []))
  return problems.length > 0 ? { ok: false, problems } : profileOf(read, places)
}
watch([files, ends], async ([chosen, between]) => {
  ground.value = null
  if (chosen.length === 0 || !between) return
  const found = await groundIn(chosen, between)
  // Meanwhile others may have been chosen.
  if (files.value === chosen) ground.value = found
})
// What was read is of one link alone.
watch([open, () => link.id], () => (files.value = []))

const read = computed(() => typed.value ?? ground.value)
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
        :model-value="files"
        @update:model-value="(chosen) => (files = [chosen ?? []].flat())"
      />
      <p v-else class="small soft">
        With the positions of both buildings, in the Brief, the ground can be read from elevation tiles.
      </p>
    </template>
  </ImportDialog>
</template>
