<script setup lang="ts">
import { layer2Of } from '#core/layer2'
import { removeDevice } from '#core/edit'
import { downIn } from '#core/queries'
import DeviceTable from './DeviceTable.vue'
import { usePortColumns } from './port-columns'
import { useChosenWalk, usePortList } from './port-list'
import SsidTable from './SsidTable.vue'
import { pathOn, topologyGraphOf, type LinkBundle, type PortRow } from './topology-graph'
import TopologyDiagram from './TopologyDiagram.vue'
import { linkWords, treeWords, walkWords } from './words'
import { useActions } from '~/shell/actions'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { threadOf } from '~/theme/threads'
import { useChosen } from '~/ui/selection'
import { useOpened } from '~/ui/opened'
import SheetTable from '~/ui/SheetTable.vue'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import VlanSwatch from '~/ui/VlanSwatch.vue'
import { namesIn } from '~/wording/names'

const PortBatchDialog = defineAsyncComponent(() => import('./PortBatchDialog.vue'))
const AddDevice = defineAsyncComponent(() => import('./AddDevice.vue'))
const TrunkProposals = defineAsyncComponent(() => import('./TrunkProposals.vue'))

/** The devices, their cables and VLANs as a picture, and what is chosen of it as a table. */
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const chosen = useChosen()
const { place } = usePointer()
const columns = usePortColumns()
const names = computed(() => plan.draft && namesIn(plan.draft))
const { all, rows, bundle, choose } = usePortList()
const walk = useChosenWalk()
const ssids = useTemplateRef<InstanceType<typeof SsidTable>>('ssids')
const adding = ref(false)
const mending = ref(false)
const setting = ref(false)
const [wasAdding, wasMending, wasSetting] = [useOpened(adding), useOpened(mending), useOpened(setting)]

const graph = computed(
  () =>
    plan.draft &&
    topologyGraphOf(
      plan.draft,
      downIn(analysis.scenario),
      analysis.analysis?.carriedVlans ?? [],
      analysis.analysis?.gaps ?? [],
    ),
)
const path = computed(() =>
  chosen.walk && graph.value && walk.value ? pathOn(graph.value, walk.value) : null,
)
const walkText = computed(() =>
  chosen.walk && names.value ? walkWords(names.value, chosen.walk, walk.value) : '',
)
const title = computed(() => {
  if (bundle.value && names.value) return linkWords(names.value, bundle.value)
  if (chosen.device !== '' && names.value) return `Ports of ${names.value.device(chosen.device)}`
  return chosen.vlan === 0 ? 'All ports' : `Ports that carry VLAN ${chosen.vlan}`
})
const tree = computed(() =>
  plan.index && names.value ? treeWords(names.value, layer2Of(plan.index, analysis.scenario)) : '',
)

/** What stands under the picture. */
const part = ref('ports')
const parts = computed(() => {
  const { devices = [], ssids = [] } = plan.draft ?? {}
  const own = devices.filter(({ kind }) => kind !== 'cloud')
  return [
    { key: 'ports', name: 'Ports', tally: String(all.value.length) },
    { key: 'devices', name: 'Devices', tally: String(own.length) },
    { key: 'wifi', name: 'Wi-Fi', tally: String(ssids.length) },
  ]
})
function take(next: { device?: string; bundle?: LinkBundle; vlan?: number }): void {
  part.value = 'ports'
  choose(next)
}
useActions({
  'add-device': () => (adding.value = true),
  'set-ports': () => (setting.value = true),
  'mend-trunks': () => (mending.value = true),
  'add-ssid': async () => {
    part.value = 'wifi'
    await nextTick()
    ssids.value?.add()
  },
})
function dropDevice(id: string): void {
  plan.change(`${names.value?.device(id)} removed`, '', (now) => removeDevice(now, id))
  if (chosen.device === id) chosen.device = ''
}

const focusAt = shallowRef<{ row: string; column: string } | null>(null)
const focusOn = (row: PortRow | undefined, column: string) =>
  (focusAt.value = row ? { row: row.id, column } : null)
// A label's code leads to one port.
const route = useRoute()
onMounted(() => {
  const [deviceId = '', portId = ''] = String(route.query['port'] ?? '').split('/')
  if (deviceId === '') return
  chosen.device = deviceId
  focusOn(
    all.value.find((row) => row.device.id === deviceId && row.portId === portId),
    'port',
  )
})
watch(
  place,
  async ([kind, id = '', , portId]) => {
    if (kind === 'ssids') part.value = 'wifi'
    if (kind !== 'devices' && kind !== 'links') return
    const isDevice = kind === 'devices'
    part.value = isDevice && portId === undefined ? 'devices' : 'ports'
    bundle.value = null
    chosen.vlan = 0
    chosen.device = isDevice ? id : ''
    await nextTick()
    const row = isDevice
      ? rows.value.find((r) => r.device.id === id && (portId === undefined || r.portId === portId))
      : rows.value.find((r) => r.link?.id === id)
    focusOn(row, isDevice ? 'tagged' : 'cable')
  },
  { immediate: true },
)

const findings = computed(() => (analysis.analysis?.findings ?? []).filter(({ sheet }) => sheet === 'loom'))
/** Marks the tagged VLANs of a port, or the length of its cable, that a finding is about. */
const trouble = (row: PortRow, key: string): boolean =>
  findings.value.some(({ place: [kind, id, , portId], severity }) => {
    if (kind === 'devices')
      return key === 'tagged' && severity === 'blocker' && id === row.device.id && portId === row.portId
    return kind === 'links' && key === 'length' && severity !== 'note' && id === row.link?.id
  })
</script>

<template>
  <section v-if="plan.draft && graph" class="sheet">
    <header>
      <h1>Loom</h1>
      <span class="tools">
        <UndoRedo />
        <VBtn v-if="session.edits" @click="adding = true">Add a device</VBtn>
        <VBtn v-if="session.edits" @click="mending = true">Mend trunks</VBtn>
        <VBtn v-if="session.edits" @click="setting = true">Set ports</VBtn>
      </span>
      <p>
        Every VLAN as a thread from the gateway to where it is needed. Choose a thread, a device or a cable to
        change it.
      </p>
    </header>
    <p v-if="chosen.walk" class="walked" aria-live="polite">
      <b>{{ walkText }}</b> <NuxtLink :to="`/sites/${plan.slug}/reach`">Back to the grid</NuxtLink>
      <VBtn @click="chosen.walk = null">Hide the way</VBtn>
    </p>
    <ul class="legend" aria-label="Threads">
      <li v-for="n in plan.draft.networks" :key="n.id">
        <VBtn variant="text" :aria-pressed="chosen.vlan === n.vlan" @click="take({ vlan: n.vlan })">
          <VlanSwatch :thread="threadOf(plan.draft.networks, n.id)" /> {{ n.name }} {{ n.vlan }}
        </VBtn>
      </li>
    </ul>
    <TopologyDiagram
      :plan="plan.draft"
      :graph="graph"
      :device="chosen.device"
      :bundle="bundle?.id ?? ''"
      :vlan="chosen.vlan"
      :path="path"
      @device="(id) => take({ device: id })"
      @bundle="(one) => take({ bundle: one })"
    />
    <p v-if="tree" class="small soft tree">{{ tree }}</p>
    <TabBar v-model="part" :parts="parts" label="Parts of the Loom" />
    <div v-if="part === 'ports'" role="tabpanel" aria-labelledby="tab-ports">
      <div class="under">
        <h2>{{ title }}</h2>
        <VBtn v-if="session.edits && chosen.device !== ''" @click="dropDevice(chosen.device)">
          Remove {{ names?.device(chosen.device) }}
        </VBtn>
        <VBtn v-if="bundle || chosen.device !== '' || chosen.vlan !== 0" @click="take({ vlan: 0 })">
          Show all ports
        </VBtn>
      </div>
      <SheetTable
        :columns="columns"
        :rows="rows"
        label="Ports"
        :name-of="(r) => `${r.device.name} ${r.portId.replace(/^p/, '')}`"
        :readonly="!session.edits"
        :trouble="trouble"
        :focus-at="focusAt"
      >
        <template #empty>No port of a managed device here.</template>
      </SheetTable>
    </div>
    <div v-else-if="part === 'devices'" role="tabpanel" aria-labelledby="tab-devices">
      <DeviceTable @add="adding = true" />
    </div>
    <div v-else role="tabpanel" aria-labelledby="tab-wifi"><SsidTable ref="ssids" /></div>
    <AddDevice v-if="session.edits && wasAdding" v-model="adding" @made="(id) => (chosen.device = id)" />
    <TrunkProposals v-if="session.edits && wasMending" v-model="mending" />
    <PortBatchDialog v-if="session.edits && wasSetting" v-model="setting" :chosen="chosen.device" />
  </section>
</template>

<style scoped>
.legend {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  font-size: 13px;
}
.legend .v-btn {
  text-decoration: none;
  color: var(--ink);
  font-weight: 400;
}
.legend .v-btn :deep(.v-btn__content) {
  gap: 6px;
}
.legend .v-btn[aria-pressed='true'] {
  background: var(--shallow);
}
.walked {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin-bottom: 8px;
  padding: 4px 8px;
  border: 1px solid var(--deep);
}
.walked b {
  flex: 1;
}
.tree {
  margin-top: 6px;
}
.under {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  margin: 12px 0 6px;
  min-height: 28px;
}
</style>
