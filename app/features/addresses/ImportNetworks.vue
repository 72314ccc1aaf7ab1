<script setup lang="ts">
import Papa from 'papaparse'
import type { Problem } from '#core/util'
import { readNetworkList, type NetworkRow } from '#core/ingest'
import { BLANK_NETWORK, freshId } from '#core/edit'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import ImportDialog from '~/ui/ImportDialog.vue'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { count } from '~/wording/findings'

/** A network list from a spreadsheet: shown as it would be laid on the plan, then laid on it as one step. */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const text = ref('')
const read = computed(() =>
  text.value.trim() === ''
    ? null
    : readNetworkList(Papa.parse<string[]>(text.value.trim(), { skipEmptyLines: false }).data),
)
const problems = computed((): readonly Problem[] => (read.value && !read.value.ok ? read.value.problems : []))

interface Preview {
  readonly id: string
  readonly row: NetworkRow
  /** What happens to the plan: matched by VLAN number. */
  readonly what: 'new' | 'changed' | 'same'
  readonly was: string
}
const preview = computed((): Preview[] => {
  if (!read.value?.ok) return []
  return read.value.value.map((row) => {
    const now = plan.draft?.networks.find((n) => n.vlan === row.vlan)
    const id = String(row.vlan)
    if (!now) return { id, row, what: 'new', was: '' }
    const pool = (p: NetworkRow['pool']) => (p ? `${p.from} to ${p.to}` : 'no pool')
    const differs = (
      [
        ['name', now.name, row.name],
        ['subnet', now.subnet, row.subnet],
        ['gateway', now.gateway, row.gateway],
        ['pool', pool(now.pool), pool(row.pool)],
      ] as const
    ).filter(([, a, b]) => a !== b)
    return {
      id,
      row,
      what: differs.length > 0 ? 'changed' : 'same',
      was: differs.map(([field, a]) => `${field} was ${a}`).join(', '),
    }
  })
})
const columns: readonly Column<Preview>[] = [
  { key: 'what', head: 'What', get: ({ what, was }) => `${what} ${was}` },
  { key: 'vlan', head: 'VLAN', num: true, mono: true, get: ({ row }) => String(row.vlan) },
  { key: 'name', head: 'Network', get: ({ row }) => row.name },
  { key: 'subnet', head: 'Subnet', mono: true, get: ({ row }) => row.subnet },
  { key: 'gateway', head: 'Gateway', mono: true, get: ({ row }) => row.gateway },
  {
    key: 'pool',
    head: 'Pool',
    mono: true,
    get: ({ row: { pool } }) => (pool ? `${pool.from} to ${pool.to}` : '—'),
  },
]
const touched = computed(() => preview.value.filter((p) => p.what !== 'same'))

function lay(): void {
  plan.edit(`network list read: ${count(touched.value.length, 'network')}`, '', (draft) => {
    const routerId =
      draft.networks[0]?.routerId ?? draft.devices.find((d) => d.kind === 'gateway')?.id ?? 'gateway'
    for (const { row } of touched.value) {
      const { vlan, name, subnet, gateway } = row
      const pool = row.pool && { ...row.pool }
      const now = draft.networks.find((n) => n.vlan === vlan)
      const answered = now?.dhcp === 'relay' ? ('relay' as const) : ('serve' as const)
      const dhcp = pool ? answered : ('none' as const)
      if (now) Object.assign(now, { name, subnet, gateway, pool, dhcp })
      else
        draft.networks.push({
          id: freshId(draft.networks, `vlan-${vlan}`),
          vlan,
          name,
          subnet,
          gateway,
          pool,
          dhcp,
          routerId,
          expected: 0,
          fixed: [],
          ...structuredClone(BLANK_NETWORK),
        } as unknown as PlanDraft['networks'][number])
    }
  })
}
</script>

<template>
  <ImportDialog
    v-model="open"
    v-model:text="text"
    title="Import networks"
    placeholder="vlan,name,subnet,gateway,pool"
    :problems="problems"
    :offer="touched.length > 0 ? `Import ${count(touched.length, 'network')}` : ''"
    :width="860"
    @lay="lay"
  >
    CSV with a heading that names VLAN, name, subnet and gateway, and pool where there is one. Networks are
    matched by VLAN; those not in the list stay.
    <template #found
      ><DataTable
        v-if="preview.length > 0"
        label="The list"
        :columns="columns"
        :rows="preview"
        empty="No row."
        ><template #what="{ row: { what, was } }"
          ><b v-if="what !== 'same'">{{ what }}</b
          ><span v-else class="soft">same</span><br v-if="was" /><span v-if="was" class="small soft">{{
            was
          }}</span></template
        ></DataTable
      ></template
    >
  </ImportDialog>
</template>
