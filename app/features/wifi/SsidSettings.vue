<script setup lang="ts">
import { useSsidSettingColumns } from './ssid-setting-columns'
import PassphraseTable from './PassphraseTable.vue'
import { usePlan } from '~/stores/plan'
import SsidTable from '~/features/topology/SsidTable.vue'

/** How each SSID is sent. */
const plan = usePlan()
const columns = useSsidSettingColumns()
</script>

<template>
  <SsidTable :columns="columns" />
  <p v-if="plan.draft?.ssids.length" class="small soft">
    A hidden name or a list of MAC addresses keeps nobody out: both are sent in clear. Old stations need WPA2;
    WPS stays off. A slowest rate of 6 Mb/s or more shortens beacons and leaves 802.11b out.
  </p>
  <PassphraseTable />
</template>
