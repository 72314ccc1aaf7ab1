<script setup lang="ts">
import { addressesOf, fleetOverlaps, type FleetSite } from '#core/brief'
import { freshId } from '#core/edit'
import { groupBy } from '#core/util'
import { useBriefList, useExistingColumns, useFarColumns } from './columns'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import ListTable from '~/ui/ListTable.vue'

/** Other sites, and what is there already. */
const plan = usePlan()
const brief = computed(() => plan.draft?.brief)
const [far, existing] = [useBriefList('far'), useBriefList('existing')]
const columns = { far: useFarColumns(), existing: useExistingColumns() }

const addFar = () =>
  brief.value &&
  far.add('far site added', {
    id: freshId(brief.value.far, 'far'),
    name: 'New site',
    subnets: [],
    tunnel: null,
  })
const addExisting = () =>
  brief.value &&
  existing.add('existing thing added', {
    id: freshId(brief.value.existing, 'existing'),
    what: 'New entry',
    disposition: 'unknown',
  })

const fleet = shallowRef<readonly FleetSite[]>([])
onMounted(async () => {
  const answer = await api<FleetSite[]>('GET', 'fleet')
  if (answer.ok) fleet.value = answer.value
})
const bySite = computed(() =>
  [...groupBy(overlaps.value, (o) => o.site)].map(([site, list]) => ({ id: site, list })),
)
type Overlapping = (typeof bySite.value)[number]
const MOST_NAMED = 8
function usesWords({ list }: Overlapping): string {
  const named = list.slice(0, MOST_NAMED).map((o) => `${o.ours} (${o.theirSubnet})`)
  return `${named.join(', ')}${list.length > MOST_NAMED ? ` and ${list.length - MOST_NAMED} more` : ''}.`
}
const fleetColumns: readonly Column<Overlapping>[] = [
  { key: 'site', head: 'Site', strong: true, get: ({ id }) => id },
  { key: 'uses', head: 'Uses addresses of', get: usesWords },
]
const overlaps = computed(() =>
  plan.draft ? fleetOverlaps(addressesOf(plan.slug, plan.draft), fleet.value) : [],
)
</script>

<template>
  <template v-if="brief">
    <ListTable
      title="Other sites"
      :columns="columns.far"
      :rows="brief.far"
      :name-of="(f) => f.name"
      add-words="Add a site"
      empty="No other site."
      @add="addFar"
      @remove="(f) => far.remove(f.id, `far site ${f.name} removed`)"
    />
    <section class="fleet">
      <h2>The fleet</h2>
      <p v-if="overlaps.length === 0" class="small soft">No other site here uses an address of this one.</p>
      <DataTable
        v-else
        label="Sites that use the same addresses"
        :columns="fleetColumns"
        :rows="bySite"
        empty="No other site."
        ><template #uses="{ row }"
          >{{ usesWords(row) }} <span class="soft">No tunnel can join the two as they are.</span></template
        ></DataTable
      >
    </section>
    <ListTable
      title="What is there already"
      :columns="columns.existing"
      :rows="brief.existing"
      :name-of="(e) => e.what"
      add-words="Add an entry"
      empty="Nothing noted."
      @add="addExisting"
      @remove="(e) => existing.remove(e.id, `existing: ${e.what} removed`)"
    />
  </template>
</template>

<style scoped>
.fleet {
  margin-top: 12px;
}
</style>
