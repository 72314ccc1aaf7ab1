<script setup lang="ts">
import type { DeviceId } from '#core/schema'
import { useGroupColumns, usePairColumns } from './columns'
import { groupUse, usePolicyEdits, usePolicyLists } from './policy-edits'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import RemovableTable from '~/ui/RemovableTable.vue'

/** Ends under one name, and what happens between two ends that no rule names. */
const props = defineProps<{ deviceId: DeviceId }>()
const plan = usePlan()
const session = useSession()
const policy = computed(() => plan.draft?.policies.find((p) => p.deviceId === props.deviceId))
const groupColumns = useGroupColumns()
const pairColumns = usePairColumns(() => props.deviceId)
const lists = usePolicyLists()
const edits = usePolicyEdits(() => props.deviceId)
const usedBy = ({ id }: { readonly id: string }) => (plan.draft ? groupUse(plan.draft, id) : '')
</script>

<template>
  <Teleport v-if="session.edits" defer to="#rules-tools">
    <VBtn @click="lists.addGroup()">Add a group</VBtn>
    <VBtn v-if="policy" @click="edits.addPair()">Add a default</VBtn>
  </Teleport>
  <RemovableTable
    :columns="groupColumns"
    :rows="plan.draft?.groups ?? []"
    label="Groups"
    :name-of="(g) => g.name"
    :used-by="usedBy"
    @remove="lists.removeGroup"
  >
    <template #empty
      >No group. One may hold networks (a zone), devices, prefixes, tunnels and peers, and stand wherever one
      of them may.</template
    >
  </RemovableTable>
  <RemovableTable
    v-if="policy"
    class="pairs"
    :columns="pairColumns"
    :rows="policy.pairs"
    label="Defaults of pairs"
    ordered
    :name-of="(p) => p.id"
    @remove="edits.removePair"
  >
    <template #empty
      >No pair has a default of its own: what no rule names is
      {{ policy.forward === 'drop' ? 'dropped' : 'accepted' }}.</template
    >
  </RemovableTable>
  <p class="small soft said">
    After the rules, the first pair that fits decides what passes through the gateway; what fits none has the
    default above.
  </p>
</template>

<style scoped>
.pairs {
  margin-top: 12px;
}
.said {
  margin: 4px 0 8px;
}
</style>
