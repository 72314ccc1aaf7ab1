<script setup lang="ts">
import {
  mdiArchiveArrowDownOutline,
  mdiArchiveArrowUpOutline,
  mdiDotsHorizontal,
  mdiSwapHorizontal,
  mdiTrashCanOutline,
} from '@mdi/js'
import type { SiteLine } from '#contracts/api'
import { EDITORS } from '#contracts/roles'
import { useSession } from '~/stores/session'
import DataTable from '~/ui/DataTable.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'
import { findingWords, leftWords, provenWords, stageWords } from './words'

/** Sites with what changed last, and what can be done with each. */
const { sites, label } = defineProps<{
  sites: readonly SiteLine[]
  label: string
  empty: string
  searched?: boolean
}>()
const emit = defineEmits<{
  archive: [site: SiteLine]
  transfer: [site: SiteLine]
  remove: [site: SiteLine]
}>()
const session = useSession()
const rows = computed(() => sites.map((site) => ({ ...site, id: site.slug })))
type Row = (typeof rows.value)[number]
const columns: readonly Column<Row>[] = [
  { key: 'name', head: 'Site', strong: true, wraps: true, get: ({ name }) => name },
  { key: 'stage', head: 'Stage', wraps: true, get: ({ standing }) => stageWords(standing) },
  { key: 'left', head: 'What is left there', wraps: true, get: ({ standing }) => leftWords(standing) },
  { key: 'findings', head: 'Findings', wraps: true, get: ({ standing }) => findingWords(standing) },
  { key: 'proven', head: 'Proven', num: true, mono: true, get: ({ standing }) => provenWords(standing) },
  {
    key: 'savedAt',
    head: 'Last change',
    wraps: true,
    get: ({ savedAt, author }) => `${dateText(savedAt)} by ${author}`,
  },
  { key: 'acts', head: '', get: () => '' },
]
/** What somebody may do with a site. */
function actsOn(site: SiteLine) {
  const role = session.roleAt(site.slug)
  const archive = {
    name: site.isArchived ? 'Bring back from the archive' : 'Archive',
    icon: site.isArchived ? mdiArchiveArrowUpOutline : mdiArchiveArrowDownOutline,
    go: () => emit('archive', site),
  }
  const transfer = { name: 'Transfer', icon: mdiSwapHorizontal, go: () => emit('transfer', site) }
  const remove = { name: 'Delete', icon: mdiTrashCanOutline, go: () => emit('remove', site) }
  return [
    ...(role !== null && EDITORS.includes(role) ? [archive] : []),
    ...(role === 'administrator' && session.administers ? [transfer] : []),
    ...(role === 'administrator' ? [remove] : []),
  ]
}
</script>

<template>
  <DataTable :label="label" :columns="columns" :rows="rows" :empty="empty" :searched="searched">
    <template #name="{ row }"
      ><NuxtLink :to="`/sites/${row.slug}/${session.landingAt(row.slug)}`">{{ row.name }}</NuxtLink></template
    >
    <template #acts="{ row }">
      <VMenu v-if="actsOn(row).length > 0">
        <template #activator="{ props: opener }">
          <VBtn
            v-bind="opener"
            variant="text"
            size="small"
            :icon="mdiDotsHorizontal"
            :aria-label="`More of ${row.name}`"
          />
        </template>
        <VList density="compact">
          <VListItem v-for="act in actsOn(row)" :key="act.name" :prepend-icon="act.icon" @click="act.go">{{
            act.name
          }}</VListItem>
        </VList>
      </VMenu>
    </template>
  </DataTable>
</template>
