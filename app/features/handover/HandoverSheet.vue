<script setup lang="ts">
import OpenFindings from './OpenFindings.vue'
import StatusFlag, { type FlagState } from '~/ui/StatusFlag.vue'
import { useProofLines } from '~/features/proof/proof-lines'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { tally } from '~/wording/findings'

/** The papers a site is handed over with, and what is still missing for them to be whole. */
const plan = usePlan()
const analysis = useAnalysis()
const { counts } = useProofLines()
const base = computed(() => `/api/sites/${plan.slug}/export`)
const papers = computed(() => [
  {
    name: 'Cable labels',
    what: 'two for each cable, with a code that opens the port’s record',
    to: `/labels/${plan.slug}`,
    act: 'Open',
  },
  {
    name: 'As-built page',
    what: 'networks, uplinks, Wi-Fi, tunnels, devices, ports, rules, the proof what is open; print it or keep a PDF',
    to: `/as-built/${plan.slug}`,
    act: 'Open',
  },
])
const files = [
  { file: 'addresses.csv', name: 'Address plan', what: 'CSV (RFC 4180): one network a row' },
  {
    file: 'ports.csv',
    name: 'Port map',
    what: 'CSV (RFC 4180): one port a row, with what it is connected to',
  },
  {
    file: 'cables.csv',
    name: 'Cable schedule',
    what: 'CSV (RFC 4180): one cable a row, with label, ends, length and speed',
  },
  {
    file: 'materials.csv',
    name: 'Bill of materials',
    what: 'CSV (RFC 4180): cable, cords, transceivers and devices',
  },
  {
    file: 'equipment.csv',
    name: 'Equipment',
    what: 'CSV (RFC 4180): model, serial and MAC of each box, and the device it is',
  },
  {
    file: 'site.json',
    name: 'Site file',
    what: 'JSON: the whole plan, versioned; reading it back gives an identical plan',
  },
] as const
const waits = computed(() => [
  ...(counts.value.failed > 0 ? [`${counts.value.failed} failed tests`] : []),
  ...(counts.value.all > counts.value.proven + counts.value.failed
    ? [`${counts.value.all - counts.value.proven - counts.value.failed} tests not tried`]
    : []),
])
const standing = computed((): { readonly flag: FlagState; readonly says: string } => {
  if (counts.value.all === 0) return { flag: 'bare', says: 'nothing known yet' }
  return waits.value.length === 0 ? { flag: 'full', says: 'ready' } : { flag: 'half', says: 'waits' }
})
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>As-built papers</h1>
      <p>What the keeper gets. Files are of the saved revision {{ plan.saved?.revision }}.</p>
    </header>
    <p class="state">
      <StatusFlag :state="standing.flag" :says="standing.says" />
      <span v-if="counts.all === 0"><b>Nothing to prove yet.</b></span>
      <span v-else-if="waits.length === 0"><b>Everything planned is proven.</b></span>
      <span v-else
        ><b>Waits for Prove:</b> {{ waits.join(', ') }}.
        <NuxtLink :to="`/sites/${plan.slug}/prove`">Acceptance tests</NuxtLink></span
      >
      <span class="soft">Lookout: {{ tally(analysis.analysis?.findings ?? []) }}.</span>
    </p>
    <VTable class="ruled">
      <thead>
        <tr>
          <th>Paper</th>
          <th>What it holds</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in papers" :key="p.to">
          <td>
            <b>{{ p.name }}</b>
          </td>
          <td>{{ p.what }}</td>
          <td class="num">
            <VBtn :to="p.to"
              >{{ p.act }}<span class="sr"> {{ p.name }}</span></VBtn
            >
          </td>
        </tr>
        <tr v-for="f in files" :key="f.file">
          <td>
            <b>{{ f.name }}</b>
          </td>
          <td>{{ f.what }}</td>
          <td class="num">
            <VBtn :href="`${base}/${f.file}`" download
              >Download<span class="sr"> {{ f.name }}</span></VBtn
            >
          </td>
        </tr>
      </tbody>
    </VTable>
    <OpenFindings />
    <p class="small soft below">
      No password, key or pre-shared key is in any of these. A site file is read back on the Sites page.
    </p>
  </section>
</template>

<style scoped>
.state {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: baseline;
  margin-bottom: 12px;
}
td {
  padding-top: 6px;
  padding-bottom: 6px;
}
.below {
  margin-top: 10px;
}
</style>
