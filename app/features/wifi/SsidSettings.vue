<script setup lang="ts">
import { useSendingColumns, useSsidSettingColumns } from './ssid-setting-columns'
import { useKeptApartColumns } from './kept-apart'
import PassphraseTable from './PassphraseTable.vue'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import SheetTable from '~/ui/SheetTable.vue'
import SsidTable from '~/features/topology/SsidTable.vue'

/** How each SSID is sent. */
const plan = usePlan()
const session = useSession()
const columns = useSsidSettingColumns()
const sending = useSendingColumns()
const keptApart = useKeptApartColumns()
</script>

<template>
  <SsidTable :columns="columns" />
  <p v-if="plan.draft?.ssids.length" class="small soft">
    A hidden name or a list of MAC addresses keeps nobody out: both are sent in clear. Old stations need WPA2.
    A slowest rate of 6 Mb/s or more shortens beacons and leaves 802.11b out.
  </p>
  <template v-if="plan.draft?.ssids.length">
    <h2 class="sent">How they are sent</h2>
    <SheetTable
      label="How they are sent"
      :columns="sending"
      :rows="plan.draft.ssids"
      :name-of="(ssid) => ssid.name"
      :readonly="!session.edits"
    />
    <h2 class="sent">Kept apart</h2>
    <SheetTable
      label="Kept apart"
      :columns="keptApart"
      :rows="plan.draft.ssids"
      :name-of="(ssid) => ssid.name"
      :readonly="!session.edits"
    />
  </template>
  <PassphraseTable />
</template>

<style scoped>
.sent {
  margin: 14px 0 6px;
}
</style>
