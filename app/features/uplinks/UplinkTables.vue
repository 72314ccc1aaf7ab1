<script setup lang="ts">
import { freshId } from '#core/edit'
import { uplinksInOrder } from '#core/queries'
import type { PolicyRoute, Uplink } from '#core/schema'
import InsideCallsTable from './InsideCallsTable.vue'
import StaticRouteTable from './StaticRouteTable.vue'
import { useForwardColumns, usePolicyRouteColumns, useProbeColumns, useStandbyColumns } from './columns'
import { useActions } from '~/shell/actions'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import RemovableTable from '~/ui/RemovableTable.vue'
import SheetTable from '~/ui/SheetTable.vue'
import TabBar from '~/ui/TabBar.vue'

/** The tables of the lines: probes, standby, who takes which line, what is handed inside. */
const props = defineProps<{ uplink: Uplink | undefined }>()
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const { place } = usePointer()
const uplinks = computed(() => (plan.draft ? uplinksInOrder(plan.draft) : []))
const uplink = computed(() => props.uplink)
const trouble = (row: { readonly id: string }, key: string) =>
  (analysis.analysis?.findings ?? []).some(
    ({ sheet, severity, place: [, id, field] }) =>
      sheet === 'uplinks' &&
      severity !== 'note' &&
      id === row.id &&
      (field === key || (field === 'probe' && key === 'targets')),
  )

const part = ref<'probes' | 'standby' | 'routes' | 'static' | 'forwards'>('probes')
const parts = computed(() => [
  { key: 'probes', name: 'Probes' },
  { key: 'standby', name: 'Standby and shared risks' },
  { key: 'routes', name: 'Policy routes', tally: String(plan.draft?.policyRoutes.length ?? 0) },
  { key: 'static', name: 'Static routes', tally: String(plan.draft?.routes.length ?? 0) },
  { key: 'forwards', name: 'Port forwards', tally: String(plan.draft?.forwards.length ?? 0) },
])
const PART_OF: Readonly<Record<string, typeof part.value>> = {
  policyRoutes: 'routes',
  routes: 'static',
  forwards: 'forwards',
}
watch(
  place,
  ([list = '', , field = '']) => {
    if (list === 'uplinks')
      part.value = ['sharedRisks', 'weight', 'priority'].includes(field) ? 'standby' : 'probes'
    else part.value = PART_OF[list] ?? part.value
  },
  { immediate: true },
)
const probeColumns = useProbeColumns()
const standbyColumns = useStandbyColumns()
const routeColumns = usePolicyRouteColumns()
/** Who goes where, as the row says. */
const routeName = (row: PolicyRoute): string => {
  const [who, , by] = routeColumns
  return `${who?.get(row)} by ${by?.get(row)}`
}
const forwardColumns = useForwardColumns()
const gatewayId = computed(
  () => uplink.value?.deviceId ?? plan.draft?.devices.find((d) => d.kind === 'gateway')?.id ?? '',
)
function addRoute(): void {
  const [network, first] = [plan.draft?.networks[0], uplink.value]
  if (!network || !first) return
  plan.edit(
    'policy route added',
    '',
    (draft) =>
      void draft.policyRoutes.push({
        id: freshId(draft.policyRoutes, 'way'),
        deviceId: gatewayId.value,
        from: { kind: 'network', id: network.id },
        services: [],
        out: { kind: 'uplink', id: first.id },
        orElse: 'next',
        note: '',
      }),
  )
}
function addForward(): void {
  const [fixed, first] = [
    plan.draft?.networks.flatMap((n) => n.fixed).find((f) => f.deviceId !== null),
    uplink.value,
  ]
  if (!first) return
  plan.edit(
    'port forward added',
    '',
    (draft) =>
      void draft.forwards.push({
        id: freshId(draft.forwards, 'forward'),
        deviceId: gatewayId.value,
        uplinkId: first.id,
        proto: 'tcp',
        from: 8443,
        to: 8443,
        toAddress: fixed?.ip ?? '0.0.0.0',
        toPort: 443,
        hairpin: false,
        note: '',
      }),
  )
}
useActions({
  'add-port-forward': () => {
    part.value = 'forwards'
    addForward()
  },
})
const remove = (list: 'policyRoutes' | 'forwards', id: string) =>
  plan.edit(
    list === 'forwards' ? 'port forward removed' : 'policy route removed',
    '',
    (draft) =>
      void draft[list].splice(
        draft[list].findIndex((x) => x.id === id),
        1,
      ),
  )
const focusAt = computed(() =>
  place.value[0] === 'uplinks'
    ? { row: place.value[1] ?? '', column: place.value[2] === 'probe' ? 'targets' : (place.value[2] ?? '') }
    : null,
)
</script>

<template>
  <div class="under">
    <TabBar v-model="part" :parts="parts" label="Parts of Uplinks" />
    <VBtn v-if="session.edits && part === 'routes' && uplinks.length > 0" @click="addRoute">
      Add a policy route
    </VBtn>
    <VBtn v-if="session.edits && part === 'forwards' && uplinks.length > 0" @click="addForward">
      Add a forward
    </VBtn>
  </div>
  <SheetTable
    v-if="part === 'probes'"
    :columns="probeColumns"
    :rows="uplinks"
    label="Probes"
    :name-of="(u) => u.name"
    :readonly="!session.edits"
    :chosen="uplink?.id ?? ''"
    :trouble="trouble"
    :focus-at="focusAt"
  />
  <SheetTable
    v-else-if="part === 'standby'"
    :columns="standbyColumns"
    :rows="uplinks"
    label="Standby and shared risks"
    :name-of="(u) => u.name"
    :readonly="!session.edits"
    :chosen="uplink?.id ?? ''"
    :trouble="trouble"
    :focus-at="focusAt"
  />
  <StaticRouteTable v-else-if="part === 'static'" />
  <RemovableTable
    v-else-if="part === 'routes'"
    :columns="routeColumns"
    :rows="plan.draft?.policyRoutes ?? []"
    label="Policy routes"
    ordered
    :name-of="routeName"
    @remove="(id) => remove('policyRoutes', id)"
  >
    <template #empty>Everybody takes the uplinks in their order.</template>
  </RemovableTable>
  <RemovableTable
    v-else
    :columns="forwardColumns"
    :rows="plan.draft?.forwards ?? []"
    label="Port forwards"
    ordered
    :name-of="(f) => f.note || f.id"
    @remove="(id) => remove('forwards', id)"
  >
    <template #empty>None: nothing from outside is handed in.</template>
  </RemovableTable>
  <InsideCallsTable v-if="part === 'forwards'" />
</template>

<style scoped>
.under {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 14px 0 6px;
  flex-wrap: wrap;
}
.under :deep(.tabs) {
  margin: 0 auto 0 0;
  flex: none;
}
</style>
