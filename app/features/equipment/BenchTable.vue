<script setup lang="ts">
import type { BenchLine } from '#core/adopt'
import type { DeviceId, Model } from '#core/schema'
import { CREDENTIAL_WORDS, laptopWords, openWords } from './words'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import { usePlan } from '~/stores/plan'

/** First access to each device on the bench. */
const { bench, models } = defineProps<{ bench: readonly BenchLine[]; models: readonly Model[] }>()
const plan = usePlan()
const deviceOf = (id: string) => plan.draft?.devices.find((d) => d.id === id)
const nameOf = (id: string) => deviceOf(id)?.name ?? id
const modelOf = (deviceId: DeviceId) => models.find(({ name }) => name === deviceOf(deviceId)?.model)
const rows = computed(() => bench.map((line) => ({ ...line, id: line.deviceId })))
/** What must not be on while a device is on the bench, in words; empty where nothing speaks against it. */
function apartFrom({ notWith, isGateway, notInto }: BenchLine): string {
  const networks = notInto.map((id) => plan.draft?.networks.find((n) => n.id === id)?.name ?? id)
  const live = networks.length > 0 ? [`the live ${networks.join(', ')}`] : []
  return [
    ...notWith.map(nameOf),
    ...(isGateway ? ['the live site: its factory address is a gateway’s'] : live),
  ].join('; ')
}
const benchColumns: readonly Column<BenchLine>[] = [
  { key: 'device', head: 'Device', get: ({ deviceId }) => nameOf(deviceId) },
  { key: 'laptop', head: 'Laptop', get: laptopWords },
  { key: 'open', head: 'Open', get: openWords },
  {
    key: 'credentials',
    head: 'First sign-in',
    get: ({ deviceId }) => CREDENTIAL_WORDS[modelOf(deviceId)?.credentials ?? 'none'],
  },
  { key: 'boot', head: 'Boot', num: true, get: ({ deviceId }) => `${modelOf(deviceId)?.bootS} s` },
  { key: 'not', head: 'Not together with', get: apartFrom },
]
</script>

<template>
  <p class="small soft lead">
    First access, one device at a time. Put the laptop back on automatic afterwards; 169.254.x.x on it means
    that no DHCP server answered. A certificate warning on a device's own page is expected.
  </p>
  <DataTable
    label="On the bench"
    :columns="benchColumns"
    :rows="rows"
    empty="No device of a known model."
    ordered
  >
    <template #device="{ row }"
      ><b>{{ nameOf(row.deviceId) }}</b> <span class="soft">{{ modelOf(row.deviceId)?.name }}</span></template
    >
    <template #laptop="{ row }"
      ><span :class="{ mono: row.laptop }">{{ laptopWords(row) }}</span></template
    >
    <template #open="{ row }"
      ><span :class="{ mono: row.open }">{{ openWords(row) }}</span></template
    >
    <template #not="{ row }"
      ><span :class="apartFrom(row) ? 'warn' : 'soft'">{{ apartFrom(row) || '—' }}</span></template
    >
  </DataTable>
  <template v-if="bench.length > 0">
    <h2 class="lights">Lights</h2>
    <p class="small">
      <span v-for="light in modelOf(bench[0]?.deviceId ?? '')?.lights ?? []" :key="light.shows" class="light"
        ><b>{{ light.shows }}</b
        >: {{ light.means }}</span
      >
    </p>
  </template>
</template>

<style scoped>
.lead {
  margin-bottom: 8px;
}
.warn {
  color: var(--magenta);
}
.lights {
  margin: 12px 0 4px;
}
.light {
  margin-right: 18px;
}
</style>
