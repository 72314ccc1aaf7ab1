<script setup lang="ts">
import { parseIpv4, parsePrefix4 } from '#core/address'
import { freshId } from '#core/edit'
import type { DeviceId, StaticRoute } from '#core/schema'
import { prefixText, routersOf, useStaticRouteColumns } from './static-route-columns'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { ruleOf } from '~/ui/columns'
import RemovableTable from '~/ui/RemovableTable.vue'

/** Routes by hand, to what is behind another router inside; a new one is checked before it is laid. */
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const { place } = usePointer()
const columns = useStaticRouteColumns()

const routers = computed(() => (plan.draft ? routersOf(plan.draft) : []))
const gateway = ref<DeviceId | null>(null)
const gatewayId = computed({
  get: () => gateway.value ?? routers.value[0]?.id ?? null,
  set: (id) => (gateway.value = id),
})
const prefix = ref('')
const via = ref('')
const RULES = { prefix: ruleOf(parsePrefix4), via: ruleOf(parseIpv4) }
const fits = computed(
  () =>
    gatewayId.value !== null &&
    RULES.prefix(prefix.value.trim()) === true &&
    RULES.via(via.value.trim()) === true,
)
function add(): void {
  const deviceId = gatewayId.value
  if (!fits.value || deviceId === null) return
  const made = { deviceId, prefix: prefixText(prefix.value.trim()), via: via.value.trim(), metric: 0 }
  plan.edit(
    `static route to ${made.prefix} added`,
    '',
    ({ routes }) => void routes.push({ id: freshId(routes, 'route'), ...made }),
  )
  prefix.value = via.value = ''
}
const remove = (id: string) =>
  plan.edit('static route removed', '', (draft) => {
    draft.routes = draft.routes.filter((route) => route.id !== id)
  })

const findings = computed(() =>
  (analysis.analysis?.findings ?? []).filter((finding) => finding.place[0] === 'routes'),
)
const trouble = (row: StaticRoute, key: string) =>
  findings.value.some(({ place: [, id, field] }) => id === row.id && field === key)
const focusAt = computed(() =>
  place.value[0] === 'routes' ? { row: place.value[1] ?? '', column: place.value[2] ?? 'via' } : null,
)
</script>

<template>
  <form v-if="session.edits && routers.length > 0" class="new" @submit.prevent="add">
    <VSelect
      v-if="routers.length > 1"
      v-model="gatewayId"
      label="Gateway"
      :items="routers"
      item-title="name"
      item-value="id"
    />
    <VTextField
      v-model="prefix"
      class="mono"
      label="To"
      placeholder="10.20.0.0/16"
      persistent-placeholder
      maxlength="18"
      spellcheck="false"
      :rules="prefix === '' ? [] : [RULES.prefix]"
    />
    <VTextField
      v-model="via"
      class="mono"
      label="Next hop"
      placeholder="10.61.1.2"
      persistent-placeholder
      maxlength="15"
      spellcheck="false"
      :rules="via === '' ? [] : [RULES.via]"
    />
    <VBtn type="submit" :disabled="!fits">Add route</VBtn>
  </form>
  <RemovableTable
    :columns="columns"
    :rows="plan.draft?.routes ?? []"
    label="Static routes"
    :name-of="(route) => `to ${route.prefix}`"
    :trouble="trouble"
    :focus-at="focusAt"
    @remove="remove"
  >
    <template #empty>{{
      routers.length === 0
        ? 'No gateway yet that could have one.'
        : 'None: what a gateway reaches is behind its own ports, its tunnels or its uplinks.'
    }}</template>
  </RemovableTable>
</template>

<style scoped>
.new {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 190px)) auto;
  gap: 10px;
  align-items: start;
  justify-content: start;
  padding: 8px 0;
}
.new .v-btn {
  justify-self: start;
  margin-top: 3px;
}
@media (max-width: 899px) {
  .new {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
