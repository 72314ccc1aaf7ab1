<script setup lang="ts">
import { addRoom, BLANK_PLACE, freshId } from '#core/edit'
import { useBriefList, useBuildingColumns, useRoomColumns, useSpanColumns } from './columns'
import { siteFields, type PutSite } from './site-fields'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import KeepTemplate from '~/features/sites/KeepTemplate.vue'
import ListTable from '~/ui/ListTable.vue'
import TypedFields from '~/ui/TypedFields.vue'
import { saveFile } from '~/ui/save-file'

const ImportPlaces = defineAsyncComponent(() => import('./ImportPlaces.vue'))

/** Buildings, rooms and what lies between. */
const plan = usePlan()
const session = useSession()
const brief = computed(() => plan.draft?.brief)
const [buildings, spans, rooms] = [useBriefList('buildings'), useBriefList('spans'), useBriefList('rooms')]
const columns = { buildings: useBuildingColumns(), spans: useSpanColumns(), rooms: useRoomColumns() }

const addBuilding = () =>
  brief.value &&
  buildings.add('building added', {
    id: freshId(brief.value.buildings, 'building'),
    name: 'New building',
    ...BLANK_PLACE,
  })
function addSpan(): void {
  const [first, second] = brief.value?.buildings ?? []
  if (brief.value && first && second)
    spans.add('distance added', {
      id: freshId(brief.value.spans, 'span'),
      a: first.id,
      b: second.id,
      distanceM: 0,
      crosses: 'nothing',
    })
}
const isReading = ref(false)
const isPlaced = computed(() => brief.value?.buildings.some(({ position }) => position !== null) ?? false)
const write = async () => {
  const { siteGeoJson } = await import('#core/export')
  if (plan.draft) saveFile(`${plan.slug}.geojson`, siteGeoJson(plan.draft), 'application/geo+json')
}
const newRoom = () => plan.change('room added', '', addRoom)
const put: PutSite = (words, key, value) =>
  plan.edit(words, `site ${key}`, (draft) => void (draft.site[key] = value))
const fields = computed(() => (plan.draft ? siteFields(plan.draft.site, put) : []))
</script>

<template>
  <div v-if="brief">
    <div class="site">
      <TypedFields :fields="fields" :owner="plan.slug" />
    </div>
    <KeepTemplate v-if="session.edits" />
    <ListTable
      title="Buildings"
      :columns="columns.buildings"
      :rows="brief.buildings"
      :name-of="(b) => b.name"
      add-words="Add a building"
      empty="No building yet."
      @add="addBuilding"
      @remove="(b) => buildings.remove(b.id, `building ${b.name} removed`)"
    />
    <ListTable
      title="Rooms"
      :columns="columns.rooms"
      :rows="brief.rooms"
      :name-of="(r) => r.name"
      add-words="Add a room"
      empty="No room yet."
      @add="newRoom"
      @remove="(r) => rooms.remove(r.id, `room ${r.name} removed`)"
    />
    <ListTable
      title="Distances between buildings"
      :columns="columns.spans"
      :rows="brief.spans"
      :name-of="(s) => s.id"
      add-words="Add a distance"
      empty="No distance yet."
      @add="addSpan"
      @remove="(s) => spans.remove(s.id, 'distance removed')"
    />
    <div class="map">
      <VBtn v-if="session.edits" @click="isReading = true">Import a map</VBtn>
      <VBtn :disabled="!isPlaced" @click="write">Export a map</VBtn>
      <span class="small soft">
        {{
          isPlaced
            ? 'GeoJSON: buildings and radio links'
            : 'A map is exported once a building has a position.'
        }}
      </span>
    </div>
    <ImportPlaces v-if="isReading" v-model="isReading" />
    <p class="caution small">
      Crossing a road or burying a cable needs permission and, on poles and roofs, people trained for heights;
      local codes decide.
    </p>
  </div>
</template>

<style scoped>
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  margin: 8px 0;
}
.map {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  margin: 10px 0 2px;
}
.site {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 12px;
  align-items: start;
  padding: 6px 0 10px;
}
@media (max-width: 899px) {
  .site {
    grid-template-columns: 1fr;
  }
}
</style>
