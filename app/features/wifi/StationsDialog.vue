<script setup lang="ts">
import { readIwStations } from '#core/ingest'
import { airShares } from '#core/wifi'
import AppDialog from '~/ui/AppDialog.vue'
import DataTable from '~/ui/DataTable.vue'
import ImportProblems from '~/ui/ImportProblems.vue'
import ListInput from '~/ui/ListInput.vue'
import type { Column } from '~/ui/columns'
import { usePlan } from '~/stores/plan'
import { shareWords } from './words'

/** Who is served by an access point now, and who takes the air from all others. Nothing of it is kept. */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const text = ref('')
const read = computed(() => (text.value.trim() === '' ? null : readIwStations(text.value)))
const problems = computed(() => (read.value && !read.value.ok ? read.value.problems : []))

interface Row {
  readonly id: string
  readonly name: string
  readonly level: string
  readonly rate: string
  readonly air: string
  readonly others: string
}
/** Equipment whose address is known, by its name. */
const names = computed(
  () =>
    new Map(
      (plan.draft?.brief.equipment ?? []).flatMap(({ mac, deviceId }) => {
        const device = plan.draft?.devices.find(({ id }) => id === deviceId)
        return mac && device ? [[mac.toLowerCase(), device.name] as const] : []
      }),
    ),
)
const rows = computed((): Row[] => {
  const stations = read.value?.ok ? read.value.value : []
  const rated = stations.filter(({ rateMbps }) => rateMbps !== null)
  const shares = airShares(rated.map(({ rateMbps }) => rateMbps ?? 1))
  return stations
    .map((station) => ({ station, air: shares[rated.indexOf(station)] }))
    .sort((one, other) => (other.air?.share ?? -1) - (one.air?.share ?? -1))
    .map(({ station: { mac, levelDbm, rateMbps }, air }, i) => ({
      id: `${mac} ${i}`,
      name: names.value.get(mac) ?? mac,
      level: levelDbm === null ? '—' : `${levelDbm} dBm`.replace('-', '−'),
      rate: rateMbps === null ? '—' : `${rateMbps} Mb/s`,
      air: air ? `${Math.round(100 * air.share)} %` : '—',
      others: air ? shareWords(air.othersGain) : 'its rate is not told',
    }))
})
const columns: readonly Column<Row>[] = [
  { key: 'name', head: 'Station', strong: true, get: ({ name }) => name },
  { key: 'level', head: 'Heard', num: true, mono: true, get: ({ level }) => level },
  { key: 'rate', head: 'Rate', num: true, mono: true, get: ({ rate }) => rate },
  { key: 'air', head: 'Of the air', num: true, mono: true, get: ({ air }) => air },
  { key: 'others', head: 'Without it', wraps: true, get: ({ others }) => others },
]
</script>

<template>
  <AppDialog v-model="open" title="Airtime by station" :width="760">
    <p class="soft">
      What <span class="mono">iw dev wlan0 station dump</span> prints on the access point. Computed for the
      moment when all of them fetch as fast as they can; nothing of it is kept.
    </p>
    <ListInput v-model="text" placeholder="Station 00:00:5e:00:53:01 (on wlan0)" />
    <ImportProblems :problems="problems" />
    <DataTable v-if="rows.length > 0" label="Stations" :columns="columns" :rows="rows" ordered empty="" />
    <template #actions><VBtn @click="open = false">Close</VBtn></template>
  </AppDialog>
</template>
