<script setup lang="ts">
import { mediumText } from '#core/export'
import { layer2Of } from '#core/layer2'
import type { Walk } from '#core/reachability'
import { removeDevice } from '#core/edit'
import { downIn, tags, vidsOf } from '#core/queries'
import DeviceTable from './DeviceTable.vue'
import SsidTable from './SsidTable.vue'
import TopologyDiagram from './TopologyDiagram.vue'
import SheetTable from '~/ui/SheetTable.vue'
import VlanSwatch from '~/ui/VlanSwatch.vue'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { useChosen } from '~/ui/selection'
import { topologyGraphOf, pathOn, portRowsOf, type LinkBundle, type PortRow } from './topology-graph'
import { usePointer } from '~/shell/finding-navigation'
import { usePortColumns } from './port-columns'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { threadOf } from '~/theme/threads'
import { flowWords, namesIn, partyWords, stopWords } from '~/wording/reach'

const PortBatchDialog = defineAsyncComponent(() => import('./PortBatchDialog.vue'))
const AddDevice = defineAsyncComponent(() => import('./AddDevice.vue'))
const TrunkProposals = defineAsyncComponent(() => import('./TrunkProposals.vue'))

const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const chosen = useChosen()
const { place } = usePointer()
const columns = usePortColumns()
const bundle = shallowRef<LinkBundle | null>(null)

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
const all = computed(() => (plan.draft ? portRowsOf(plan.draft, chosen.device) : []))
// A flow's way, walked anew after each edit.
const walk = shallowRef<Walk | null>(null)
let walked = 0
watch(
  [() => chosen.walk, () => analysis.analysis],
  async ([flow]) => {
    const mine = ++walked
    const found = flow && (await analysis.walk(flow))
    if (mine === walked) walk.value = found
  },
  { immediate: true },
)
const path = computed(() =>
  chosen.walk && graph.value && walk.value ? pathOn(graph.value, walk.value) : null,
)
const walkText = computed(() => {
  const [flow, found] = [chosen.walk, walk.value]
  if (!flow || !names.value) return ''
  const end = found?.lines.at(-1)
  const passed = end?.kind === 'stopped' ? `does not pass: ${stopWords(end.code)}` : 'passes'
  const result = found ? passed : 'one of the two is not there in this weather'
  return `${partyWords(flow.from, names.value)} to ${partyWords(flow.to, names.value)}, ${flowWords(flow)}: ${result}`
})
const rows = computed(() => {
  const links = new Set(bundle.value?.links.map((l) => l.id))
  if (bundle.value) return all.value.filter((r) => r.link && links.has(r.link.id))
  if (chosen.device !== '')
    return all.value.filter(
      (portRow) =>
        portRow.device.id === chosen.device ||
        (portRow.link && [portRow.link.a, portRow.link.b].some((e) => e.deviceId === chosen.device)),
    )
  return all.value.filter((r) => chosen.vlan === 0 || carries(r, chosen.vlan))
})
const names = computed(() => plan.draft && namesIn(plan.draft))
const what = computed(() => {
  const loomBundle = bundle.value
  if (loomBundle && names.value) {
    const medium = loomBundle.links[0] ? mediumText(loomBundle.links[0].medium) : { kind: '', lengthM: '' }
    const length = loomBundle.links.length === 1 && medium.lengthM ? `, ${medium.lengthM} m` : ''
    return (
      `${names.value.device(loomBundle.from)} ${loomBundle.fromPorts} to ${names.value.device(loomBundle.to)} ` +
      `${loomBundle.toPorts}: ${medium.kind}${length}`
    )
  }
  if (chosen.device !== '' && names.value) return `Ports of ${names.value.device(chosen.device)}`
  return chosen.vlan === 0 ? 'All ports' : `Ports that carry VLAN ${chosen.vlan}`
})

function carries(row: PortRow, vlan: number): boolean {
  const mode = row.device.ports.find((p) => p.id === row.portId)?.mode
  return mode !== undefined && (vidsOf(mode).includes(vlan) || tags(mode, vlan))
}
function takeDevice(id: string): void {
  part.value = 'ports'
  bundle.value = null
  chosen.device = chosen.device === id ? '' : id
}
function takeBundle(loomBundle: LinkBundle): void {
  part.value = 'ports'
  chosen.device = ''
  bundle.value = bundle.value?.id === loomBundle.id ? null : loomBundle
}
function takeThread(vlan: number): void {
  part.value = 'ports'
  bundle.value = null
  chosen.device = ''
  chosen.vlan = chosen.vlan === vlan ? 0 : vlan
}

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
const adding = ref(false)
function dropDevice(id: string): void {
  plan.change(`${names.value?.device(id)} removed`, '', (now) => removeDevice(now, id))
  if (chosen.device === id) chosen.device = ''
}
const mending = ref(false)
const setting = ref(false)
const tree = computed(() => {
  if (!plan.index || !names.value) return ''
  const layer2 = layer2Of(plan.index, analysis.scenario)
  const { rootId, blocked } = layer2.tree
  const [loop] = layer2.loops()
  if (loop) return `A loop without spanning tree: ${loop.map(names.value.device).join(', ')}.`
  const shut = blocked.map((ref) => `${names.value?.device(ref.deviceId)} ${names.value?.port(ref)}`)
  return rootId === null
    ? ''
    : `Spanning tree: root ${names.value.device(rootId)}; ` +
        `${shut.length === 0 ? 'no port blocked, there is no second way' : `blocked ${shut.join(', ')}`}.`
})
// A label's code leads to one port.
const route = useRoute()
onMounted(() => {
  const [deviceId = '', portId = ''] = String(route.query['port'] ?? '').split('/')
  if (deviceId === '') return
  chosen.device = deviceId
  focusAt.value = {
    row: all.value.find((r) => r.device.id === deviceId && r.portId === portId)?.id ?? '',
    column: 'port',
  }
})

const findings = computed(() => (analysis.analysis?.findings ?? []).filter((f) => f.sheet === 'loom'))
const trouble = (row: PortRow, key: string) =>
  findings.value.some(
    (finding) =>
      (finding.place[0] === 'devices' &&
        finding.place[1] === row.device.id &&
        finding.place[3] === row.portId &&
        finding.severity === 'blocker' &&
        key === 'tagged') ||
      (finding.place[0] === 'links' &&
        finding.place[1] === row.link?.id &&
        finding.severity !== 'note' &&
        key === 'length'),
  )
const focusAt = shallowRef<{ row: string; column: string } | null>(null)
watch(
  place,
  async (path) => {
    if (path[0] === 'ssids') part.value = 'wifi'
    if (path[0] !== 'devices' && path[0] !== 'links') return
    part.value = path[0] === 'devices' && path[3] === undefined ? 'devices' : 'ports'
    bundle.value = null
    chosen.vlan = 0
    chosen.device = path[0] === 'devices' ? (path[1] ?? '') : ''
    await nextTick()
    const row =
      path[0] === 'devices'
        ? rows.value.find((r) => r.device.id === path[1] && (path[3] === undefined || r.portId === path[3]))
        : rows.value.find((r) => r.link?.id === path[1])
    focusAt.value = row ? { row: row.id, column: path[0] === 'links' ? 'cable' : 'tagged' } : null
  },
  { immediate: true },
)
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
        <VBtn variant="text" :aria-pressed="chosen.vlan === n.vlan" @click="takeThread(n.vlan)">
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
      @device="takeDevice"
      @bundle="takeBundle"
    />
    <p v-if="tree" class="small soft tree">{{ tree }}</p>
    <TabBar v-model="part" :parts="parts" label="Parts of the Loom" />
    <div v-if="part === 'ports'" role="tabpanel" aria-labelledby="tab-ports">
      <div class="under">
        <h2>{{ what }}</h2>
        <VBtn v-if="session.edits && chosen.device !== ''" @click="dropDevice(chosen.device)">
          Remove {{ names?.device(chosen.device) }}
        </VBtn>
        <VBtn
          v-if="bundle || chosen.device !== '' || chosen.vlan !== 0"
          @click="(takeThread(0), (chosen.vlan = 0))"
        >
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
    <div v-else role="tabpanel" aria-labelledby="tab-wifi"><SsidTable /></div>
    <AddDevice v-if="session.edits" v-model="adding" @made="(id) => (chosen.device = id)" />
    <TrunkProposals v-if="session.edits" v-model="mending" />
    <PortBatchDialog v-if="session.edits" v-model="setting" :chosen="chosen.device" />
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
