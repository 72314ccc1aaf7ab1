<script setup lang="ts">
import { hasTrait } from '#core/queries'
import { addressInfrastructure } from '#core/edit'
import type { Network, StaticAssignment } from '#core/schema'
import AddressRuler from './AddressRuler.vue'
import FineRuler from './FineRuler.vue'
import TabBar from '~/ui/TabBar.vue'
import SheetTable from '~/ui/SheetTable.vue'
import VlanSwatch from '~/ui/VlanSwatch.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { useChosen } from '~/ui/selection'
import { useFixedColumns, useNetworkColumns } from './columns'
import { useMove, useNetworkEdits } from './network-edits'
import { useActions } from '~/shell/actions'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { threadOf } from '~/theme/threads'
import { count } from '~/wording/count'

const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const chosen = useChosen()
const { place } = usePointer()
// What few press is fetched when it is pressed.
const NetworkDetail = defineAsyncComponent(() => import('./NetworkDetail.vue'))
const AllocateSubnetsDialog = defineAsyncComponent(() => import('./AllocateSubnetsDialog.vue'))
const ImportNetworks = defineAsyncComponent(() => import('./ImportNetworks.vue'))
const importing = ref(false)

const networks = computed(() => plan.draft?.networks ?? [])
const network = computed(() => networks.value.find((n) => n.id === chosen.network) ?? networks.value[0])
const columns = useNetworkColumns()
const fixedColumns = useFixedColumns(() => network.value?.id ?? '')
const findings = computed(() => (analysis.analysis?.findings ?? []).filter((f) => f.sheet === 'addresses'))
const trouble = (row: Network, key: string) =>
  findings.value.some((f) => f.severity === 'blocker' && f.place[1] === row.id && f.place[2] === key)
const fixedTrouble = (row: StaticAssignment) =>
  findings.value.some((f) => f.severity === 'blocker' && f.place[3] === row.id)

const focusAt = computed(() =>
  place.value[0] === 'networks' && place.value[2] !== 'fixed'
    ? { row: place.value[1] ?? '', column: place.value[2] ?? 'name' }
    : null,
)
const fixedAt = computed(() =>
  place.value[2] === 'fixed' ? { row: place.value[3] ?? '', column: 'ip' } : null,
)
watch(
  place,
  (path) => {
    if (path[0] === 'networks' && path[1]) chosen.network = path[1]
  },
  { immediate: true },
)

const { movedWords, move } = useMove()
const { addNetwork, removeNetwork, addFixed, removeFixed } = useNetworkEdits()
const giving = ref(false)
useActions({
  'add-network': addNetwork,
  'assign-subnets': () => (giving.value = true),
  'import-networks': () => (importing.value = true),
  'reserve-address': () => {
    part.value = 'fixed'
    if (network.value) addFixed(network.value)
  },
})
const part = ref<'fixed' | 'dhcp' | 'clients' | 'ipv6'>('fixed')
const parts = computed(() => [
  { key: 'fixed', name: 'Fixed addresses', tally: String(network.value?.fixed.length ?? 0) },
  { key: 'dhcp', name: 'DHCP' },
  { key: 'clients', name: 'Clients' },
  { key: 'ipv6', name: 'IPv6' },
])
/** Infrastructure lives in this network: its addresses can be set in one go. */
const unaddressed = computed(
  () =>
    plan.draft?.devices.some((d) => d.homeNetworkId === network.value?.id && hasTrait(d, 'addressed')) ??
    false,
)
const PART_OF: Readonly<Record<string, typeof part.value>> = {
  leaseS: 'dhcp',
  relayTo: 'dhcp',
  exclusions: 'dhcp',
  options: 'dhcp',
  prefix6: 'ipv6',
  mode6: 'ipv6',
  fixed: 'fixed',
  growthPct: 'clients',
}
watch(
  place,
  (path) => {
    if (path[0] === 'networks') part.value = PART_OF[path[2] ?? ''] ?? part.value
  },
  { immediate: true },
)
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Addresses</h1>
      <span class="tools">
        <UndoRedo />
        <VBtn v-if="session.edits" @click="importing = true">Import CSV</VBtn>
        <VBtn v-if="session.edits" @click="giving = true"> Assign subnets </VBtn>
        <VBtn v-if="session.edits" @click="addNetwork">Add a network</VBtn>
      </span>
      <p>
        {{ count(networks.length, 'network') }} in one block. Choose a length on the ruler, or type in the
        table.
      </p>
    </header>
    <AddressRuler
      :plan="plan.draft"
      :chosen="network?.id ?? ''"
      :findings="findings"
      :readonly="!session.edits"
      @choose="(id) => (chosen.network = id)"
      @lay="move"
    />
    <p v-if="movedWords" class="small moved" role="status">{{ movedWords }}</p>
    <div v-if="network" class="fine">
      <FineRuler :network="network" :colour="threadOf(networks, network.id).colour" />
    </div>
    <SheetTable
      :columns="columns"
      :rows="networks"
      label="Networks"
      :name-of="(n) => n.name"
      :readonly="!session.edits"
      :chosen="network?.id ?? ''"
      :trouble="trouble"
      :focus-at="focusAt"
      @choose="(id) => (chosen.network = id)"
    >
      <template #thread="{ row }"><VlanSwatch :thread="threadOf(networks, row.id)" /></template>
      <template #empty>No network yet. Add one, or read a list.</template>
    </SheetTable>
    <template v-if="network">
      <div class="under">
        <TabBar v-model="part" :parts="parts" :label="`Parts of ${network.name}`" />
        <template v-if="session.edits">
          <VBtn v-if="part === 'fixed'" @click="addFixed(network)"> Add an address </VBtn>
          <VBtn
            v-if="part === 'fixed' && unaddressed"
            @click="plan.change('infrastructure typed in', '', (now) => addressInfrastructure(now, 'static'))"
          >
            All static<span class="sr">: infrastructure</span>
          </VBtn>
          <VBtn
            v-if="part === 'fixed' && unaddressed"
            @click="
              plan.change('infrastructure reserved', '', (now) => addressInfrastructure(now, 'reserved'))
            "
          >
            All reserved<span class="sr">: infrastructure</span>
          </VBtn>
          <VBtn @click="removeNetwork(network)">
            Remove<span class="sr"> {{ network.name }}</span>
          </VBtn>
        </template>
      </div>
      <NetworkDetail v-if="part !== 'fixed'" :network="network" :part="part" />
      <SheetTable
        v-else
        :columns="[...fixedColumns, { key: 'remove', head: '', get: () => '', width: '90px' }]"
        :rows="network.fixed"
        label="Fixed addresses"
        :name-of="(f) => f.name"
        :readonly="!session.edits"
        :trouble="fixedTrouble"
        :focus-at="fixedAt"
      >
        <template #remove="{ row }"
          ><VBtn v-if="session.edits" variant="text" @click="removeFixed(network, row)">
            Remove<span class="sr"> {{ row.ip }}</span>
          </VBtn></template
        >
        <template #empty>None: every host takes a lease.</template>
      </SheetTable>
    </template>
    <AllocateSubnetsDialog v-if="session.edits && giving" v-model="giving" />
    <ImportNetworks v-if="session.edits && importing" v-model="importing" />
  </section>
</template>

<style scoped>
.fine {
  margin: 8px 0 12px;
}
.under {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 10px 0 6px;
}
.under {
  flex-wrap: wrap;
}
.under :deep(.tabs) {
  margin: 0 auto 0 0;
  flex: none;
}
.under .v-btn {
  white-space: nowrap;
}
.moved {
  color: var(--magenta);
  font-weight: 700;
  margin-bottom: 6px;
}
</style>
