<script setup lang="ts">
import { MODELS } from '#core/queries'
import { benchPlan, type BenchStep } from '#core/schedule'
import type { DeviceId, Model } from '#core/schema'
import { laptopWords, openWords } from './bench-words'
import { usePlan } from '~/stores/plan'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import { count } from '~/wording/count'
import { CREDENTIAL_WORDS } from '~/wording/kinds'

/** First access to each device, in the order in which the laptop's address changes least. */
const plan = usePlan()
const bench = computed(() => plan.draft && benchPlan(plan.draft))
const models = computed((): readonly Model[] => [...(plan.draft?.models ?? []), ...MODELS])
const modelOf = ({ device }: BenchStep) => models.value.find(({ name }) => name === device.model)
const nameOf = (id: DeviceId) => plan.index?.devices.get(id)?.name ?? id

type Row = BenchStep & { readonly id: string }
const rows = computed((): Row[] =>
  (bench.value?.steps ?? []).map((step) => ({ ...step, id: step.device.id })),
)
/** What must not be on while a device is on the bench, in words; empty where nothing speaks against it. */
function apartFrom({ line: { notWith, isGateway, notInto } }: BenchStep): string {
  const networks = notInto.map((id) => plan.index?.networks.get(id)?.name ?? id)
  const live = networks.length > 0 ? [`the live ${networks.join(', ')}`] : []
  return [
    ...notWith.map(nameOf),
    ...(isGateway ? ['the live site: its factory address is a gateway’s'] : live),
  ].join('; ')
}
const columns: readonly Column<Row>[] = [
  { key: 'device', head: 'Device', get: ({ device }) => device.name },
  { key: 'laptop', head: 'Laptop', get: ({ line }) => laptopWords(line) },
  { key: 'open', head: 'Open', get: ({ line }) => openWords(line) },
  {
    key: 'credentials',
    head: 'First sign-in',
    get: (row) => CREDENTIAL_WORDS[modelOf(row)?.credentials ?? 'none'],
  },
  { key: 'boot', head: 'Boot', num: true, get: (row) => `${modelOf(row)?.bootS ?? '?'} s` },
  { key: 'not', head: 'Not together with', wraps: true, get: apartFrom },
]
/** Models on this bench, each once, with what their lights say. */
const lights = computed(() =>
  [...new Set(rows.value.map(modelOf))].filter((model) => model !== undefined && model.lights.length > 0),
)
</script>

<template>
  <p class="small soft lead">
    In this order the laptop's address changes
    <b>{{ count(bench?.changes ?? 0, 'time') }}</b>, and no order has fewer. Put it back on automatic before
    the next device that hands out or asks for addresses; 169.254.x.x on it means that no DHCP server
    answered. A certificate warning on a device's own page is expected.
  </p>
  <DataTable label="On the bench" :columns="columns" :rows="rows" empty="No device of a known model." ordered>
    <template #device="{ row }"
      ><b>{{ row.device.name }}</b> <span class="soft">{{ row.device.model }}</span></template
    >
    <template #laptop="{ row }"
      ><b v-if="row.isChange" class="change">change to </b
      ><span :class="{ mono: row.line.laptop }">{{ laptopWords(row.line) }}</span></template
    >
    <template #open="{ row }"
      ><span :class="{ mono: row.line.open }">{{ openWords(row.line) }}</span></template
    >
    <template #not="{ row }"
      ><span :class="apartFrom(row) ? 'warn' : 'soft'">{{ apartFrom(row) || '—' }}</span></template
    >
  </DataTable>
  <p v-if="(bench?.unknown.length ?? 0) > 0" class="small">
    Nobody has said how these come from the factory:
    {{ bench?.unknown.map(({ name }) => name).join(', ') }}. A model says it, on
    <NuxtLink :to="`/sites/${plan.slug}/equipment`">Equipment</NuxtLink>.
  </p>
  <template v-if="lights.length > 0">
    <h2 class="lights">Lights</h2>
    <p v-for="model in lights" :key="model?.name" class="small">
      <b>{{ model?.name }}</b>
      <span v-for="light in model?.lights" :key="light.shows" class="light"
        >{{ light.shows }}: {{ light.means }}</span
      >
    </p>
  </template>
</template>

<style scoped>
.lead {
  margin-bottom: 8px;
}
.warn,
.change {
  color: var(--magenta);
}
.lights {
  margin: 12px 0 4px;
}
.light {
  margin-left: 14px;
}
</style>
