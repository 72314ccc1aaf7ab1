<script setup lang="ts">
import {
  mdiArchiveArrowDownOutline,
  mdiArchiveArrowUpOutline,
  mdiDotsHorizontal,
  mdiTrashCanOutline,
} from '@mdi/js'
import type { SiteLine } from '#contracts/api'
import { useSession } from '~/stores/session'
import DataTable from '~/ui/DataTable.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'

/** Sites with what changed last, and what can be done with each. */
const { sites, label } = defineProps<{ sites: readonly SiteLine[]; label: string; empty: string }>()
const emit = defineEmits<{ archive: [site: SiteLine]; remove: [site: SiteLine] }>()
const session = useSession()
const rows = computed(() => sites.map((site) => ({ ...site, id: site.slug })))
type Row = (typeof rows.value)[number]
const columns: readonly Column<Row>[] = [
  { key: 'name', head: 'Site', wraps: true, get: ({ name }) => name },
  {
    key: 'savedAt',
    head: 'Last change',
    wraps: true,
    get: ({ savedAt, author }) => `${dateText(savedAt)} by ${author}`,
  },
  { key: 'revision', head: 'Revision', num: true, mono: true, get: ({ revision }) => String(revision) },
  { key: 'acts', head: '', get: () => '' },
]
</script>

<template>
  <DataTable :label="label" :columns="columns" :rows="rows" :empty="empty">
    <template #name="{ row }"
      ><NuxtLink :to="`/sites/${row.slug}/${session.landing}`">{{ row.name }}</NuxtLink></template
    >
    <template #acts="{ row }">
      <VMenu v-if="session.edits">
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
          <VListItem
            :prepend-icon="row.isArchived ? mdiArchiveArrowUpOutline : mdiArchiveArrowDownOutline"
            @click="emit('archive', row)"
            >{{ row.isArchived ? 'Bring back from the archive' : 'Archive' }}</VListItem
          >
          <VListItem
            v-if="session.administers"
            :prepend-icon="mdiTrashCanOutline"
            @click="emit('remove', row)"
            >Delete</VListItem
          >
        </VList>
      </VMenu>
    </template>
  </DataTable>
</template>
