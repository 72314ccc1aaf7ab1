<script setup lang="ts">
import { apRadios } from '#core/wifi'
import SsidSettings from './SsidSettings.vue'
import FloorTables from './FloorTables.vue'
import RadioTables from './RadioTables.vue'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'

/** What the air does: where signal is, which channels, and how SSIDs are sent. */
const plan = usePlan()
const shown = ref('floors')
const { place } = usePointer()
const PART_OF: Readonly<Record<string, string>> = {
  ssids: 'ssids',
  wifi: 'radios',
  devices: 'radios',
  brief: 'floors',
}
watch(place, ([root = '']) => (shown.value = PART_OF[root] ?? shown.value), { immediate: true })
const radios = computed(() => (plan.draft ? apRadios(plan.draft).length : 0))
const parts = computed(() => [
  { key: 'floors', name: 'Floors' },
  { key: 'radios', name: 'Radios and channels', tally: String(radios.value) },
  { key: 'ssids', name: 'SSIDs', tally: String(plan.draft?.ssids.length ?? 0) },
])
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Wi-Fi</h1>
      <span class="tools"><UndoRedo /></span>
      <p>
        Signal by room, channels and how SSIDs are sent, computed for planning. It is an estimate, some 8 dB
        wide: a reading on site replaces it.
      </p>
    </header>
    <TabBar v-model="shown" :parts="parts" label="Parts of the Wi-Fi" />
    <div v-if="shown === 'floors'" role="tabpanel" aria-labelledby="tab-floors"><FloorTables /></div>
    <div v-else-if="shown === 'radios'" role="tabpanel" aria-labelledby="tab-radios"><RadioTables /></div>
    <div v-else role="tabpanel" aria-labelledby="tab-ssids"><SsidSettings /></div>
  </section>
</template>
