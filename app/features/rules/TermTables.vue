<script setup lang="ts">
import { useScheduleColumns, useServiceColumns } from './columns'
import { scheduleUse, serviceUse, usePolicyLists } from './policy-edits'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import RemovableTable from '~/ui/RemovableTable.vue'

/**
 * Times and services under a name.
 * One that is in use stays: whether what it limits would then be there always or never, nobody but the
 * planner can say.
 */
const plan = usePlan()
const session = useSession()
const lists = usePolicyLists()
const [scheduleColumns, serviceColumns] = [useScheduleColumns(), useServiceColumns()]
const used = (use: typeof scheduleUse) => (row: { readonly id: string }) =>
  plan.draft ? use(plan.draft, row.id) : ''
</script>

<template>
  <Teleport v-if="session.edits" defer to="#rules-tools">
    <VBtn @click="lists.addService()">Add a service</VBtn>
    <VBtn @click="lists.addSchedule()">Add a schedule</VBtn>
  </Teleport>
  <RemovableTable
    :columns="scheduleColumns"
    :rows="plan.draft?.schedules ?? []"
    label="Schedules"
    :name-of="(s) => s.name"
    :used-by="used(scheduleUse)"
    @remove="lists.removeSchedule"
  >
    <template #empty>No schedule: every rule is there always.</template>
  </RemovableTable>
  <p class="small soft said">
    Times by the gateway's clock, for rules and intents that are not for always. The end is not included; one
    before the beginning is on the next day. The Lookout judges every time of the week; choose one under
    Weather to see its grid.
  </p>
  <RemovableTable
    :columns="serviceColumns"
    :rows="plan.draft?.services ?? []"
    label="Services"
    :name-of="(s) => s.name"
    :used-by="used(serviceUse)"
    @remove="lists.removeService"
  />
  <p class="small soft said">
    Where services are typed, a name of IANA's registry will do too (<span class="mono">imaps</span>,
    <span class="mono">ntp/udp</span>), or ports (<span class="mono">tcp 8080</span>): it becomes a service
    here. The registry gives many names both tcp and udp; narrow what only uses one.
  </p>
</template>

<style scoped>
.said {
  margin: 4px 0 8px;
}
</style>
