<script setup lang="ts">
import { addRoom } from '#core/edit'
import FloorPicture from './FloorPicture.vue'
import { useFloorView } from './floor-view'
import { useRoomSignalColumns } from './room-columns'
import { useExtenderColumns, useExtenderPlaceColumns } from './extender-columns'
import { placementIn, usePlacementColumns } from './placement-columns'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import ListTable from '~/ui/ListTable.vue'
import { useOpened } from '~/ui/opened'
import SheetTable from '~/ui/SheetTable.vue'

const ImportWalk = defineAsyncComponent(() => import('./ImportWalk.vue'))
const importing = ref(false)
const wasImporting = useOpened(importing)

/** Rooms as they lie, what is heard in them, and where access points hang. */
const plan = usePlan()
const session = useSession()
const { place } = usePointer()
const {
  isMoving,
  isPredicted,
  failure,
  floor,
  floorKey,
  floorChoices,
  band,
  bands,
  grid,
  rooms,
  accessPoints,
  extenders,
  onFloor,
  buildingName,
} = useFloorView()
const focusAt = computed(() =>
  place.value[1] === 'rooms' ? { row: place.value[2] ?? '', column: 'size' } : null,
)
const columns = {
  rooms: useRoomSignalColumns(),
  placements: usePlacementColumns(),
  extenders: useExtenderColumns(),
  extenderPlaces: useExtenderPlaceColumns(),
}
/** An access point that has joined another has its place, and its SSIDs, among the access points. */
const plugged = computed(() => extenders.value.filter(({ device }) => device.kind === 'extender'))

function move(what: 'room' | 'placement', id: string, xM: number, yM: number, step: string): void {
  const moved = what === 'room' ? rooms.value : onFloor.value.map(({ device }) => device)
  const name = moved.find((one) => one.id === id)?.name ?? id
  plan.edit(`${name} moved`, step, (draft) => {
    const target =
      what === 'placement'
        ? placementIn(draft, id)
        : draft.brief.rooms.find((room) => room.id === id)?.outline
    if (target) Object.assign(target, { xM, yM })
  })
}

const newRoom = () => plan.change('room added', '', addRoom)
const removeRoom = ({ id, name }: { readonly id: string; readonly name: string }) =>
  plan.edit(`room ${name} removed`, '', ({ brief }) => {
    brief.rooms = brief.rooms.filter((room) => room.id !== id)
  })
</script>

<template>
  <div v-if="floor" class="choices">
    <VSelect v-if="floorChoices.length > 1" v-model="floorKey" label="Floor" :items="floorChoices" />
    <VSelect v-if="bands.length > 0" v-model="band" label="Band" :items="bands" />
  </div>
  <p v-if="floor && !isPredicted" class="soft empty" role="status">
    This floor has too many rooms and access points to be predicted.
  </p>
  <p v-if="failure" class="wrong-words" role="alert">
    Nothing was predicted: {{ failure }}. Load the page anew.
  </p>
  <FloorPicture
    v-if="floor && isPredicted"
    :floor="floor"
    :building="buildingName(floor.buildingId)"
    :band="band"
    :grid="grid"
    :placements="onFloor"
    :movable="session.edits"
    @move="move"
    @moving="(moving) => (isMoving = moving)"
  />
  <p v-else-if="!floor" class="soft empty" role="status">
    No room is drawn yet, so nothing is predicted. Type the size of a room below, as 12 x 7: steps are enough.
  </p>
  <ListTable
    title="Rooms"
    :columns="columns.rooms"
    :rows="rooms"
    :name-of="(room) => room.name"
    add-words="Add a room"
    :focus-at="focusAt"
    empty="No room yet."
    @add="newRoom"
    @remove="removeRoom"
  >
    <template #tools>
      <VBtn v-if="session.edits && rooms.length > 0" @click="importing = true">Import a walk</VBtn>
    </template>
  </ListTable>
  <ImportWalk v-if="session.edits && wasImporting" v-model="importing" />
  <h2>Access points</h2>
  <SheetTable
    label="Access points"
    :columns="columns.placements"
    :rows="accessPoints"
    :name-of="({ device }) => device.name"
    :readonly="!session.edits"
  >
    <template #empty>
      No access point yet. <NuxtLink :to="`/sites/${plan.slug}/loom`">Add one on the Loom</NuxtLink>.
    </template>
  </SheetTable>
  <template v-if="extenders.length > 0">
    <h2>Joined by radio</h2>
    <SheetTable
      label="Joined by radio"
      :columns="columns.extenders"
      :rows="extenders"
      :name-of="({ device }) => device.name"
      :readonly="!session.edits"
    />
    <p class="small soft">
      65 % of signal is wanted where one hangs; half-way, at 50 %, is the other school. An extender may be
      moved with its settings, and is back within two minutes. Without 4-address frames whoever is behind one
      is seen under its MAC address.
    </p>
    <SheetTable
      v-if="plugged.length > 0"
      label="Where extenders hang"
      :columns="columns.extenderPlaces"
      :rows="plugged"
      :name-of="({ device }) => device.name"
      :readonly="!session.edits"
    />
  </template>
  <p class="caution small">
    Ladders and ceilings: two people, and nobody works above what is live. Cables through fire-resisting walls
    are sealed again; local codes decide.
  </p>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 260px));
  gap: 12px;
  padding-top: 10px;
}
.empty {
  padding: 14px 0;
}
h2 {
  margin-top: 14px;
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  margin: 12px 0;
}
</style>
