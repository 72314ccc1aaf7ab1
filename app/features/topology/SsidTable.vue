<script setup lang="ts">
import { BLANK_SSID_SETTINGS, freshId } from '#core/edit'
import type { Ssid } from '#core/schema'
import { useSsidColumns } from './ssid-columns'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import ListTable from '~/ui/ListTable.vue'
import type { Column } from '~/ui/columns'

/** The Wi-Fi names: which network each leads to, and which access points send it. */
const props = defineProps<{ columns?: readonly Column<Ssid>[] }>()
const plan = usePlan()
const { place } = usePointer()
const own = useSsidColumns()
const columns = computed(() => props.columns ?? own)
const focusAt = computed(() =>
  place.value[0] === 'ssids'
    ? { row: place.value[1] ?? '', column: place.value[3] ?? place.value[2] ?? 'name' }
    : null,
)
function add(): void {
  const home = plan.draft?.networks[0]
  if (!home) return
  plan.edit('SSID added', '', ({ ssids, devices }) => {
    const settings = { ...BLANK_SSID_SETTINGS, bands: [...BLANK_SSID_SETTINGS.bands] }
    const apIds = devices.filter(({ kind }) => kind === 'access-point').map(({ id }) => id)
    ssids.push({
      id: freshId(ssids, 'ssid'),
      name: 'New SSID',
      networkId: home.id,
      isolation: false,
      apIds,
      settings,
    })
  })
}
const remove = ({ id, name }: Ssid) =>
  plan.edit(`SSID ${name} removed`, '', (draft) => {
    draft.ssids = draft.ssids.filter((ssid) => ssid.id !== id)
  })
defineExpose({ add })
</script>

<template>
  <ListTable
    title="SSIDs"
    :columns="columns"
    :rows="plan.draft?.ssids ?? []"
    :name-of="(s) => s.name"
    :focus-at="focusAt"
    add-words="Add an SSID"
    :empty="
      plan.draft?.networks.length ? 'No SSID yet.' : 'No SSID yet. An SSID leads to a network: add one first.'
    "
    @add="add"
    @remove="remove"
  />
</template>
