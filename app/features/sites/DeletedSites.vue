<script setup lang="ts">
import type { DeletedSite } from '#contracts/api'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'
import DataTable from '~/ui/DataTable.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'

/** Sites that were deleted in the last 30 days: each comes back, or goes for good. */
const emit = defineEmits<{ restored: [] }>()
const deleted = shallowRef<readonly DeletedSite[]>([])
const problems = shallowRef<readonly Problem[]>([])
const going = shallowRef<DeletedSite | null>(null)
const isGoing = openAbout(going)

async function read(): Promise<void> {
  const answer = await api<readonly DeletedSite[]>('GET', 'deleted-sites')
  if (answer.ok) deleted.value = answer.value
  else problems.value = answer.refusal.problems
}
onMounted(read)
defineExpose({ read })

async function restore({ slug }: DeletedSite): Promise<void> {
  const answer = await api('POST', `deleted-sites/${encodeURIComponent(slug)}/restore`, {})
  problems.value = answer.ok ? [] : answer.refusal.problems
  await read()
  if (answer.ok) emit('restored')
}
async function purge(): Promise<void> {
  const site = going.value
  going.value = null
  if (!site) return
  const answer = await api('DELETE', `deleted-sites/${encodeURIComponent(site.slug)}`)
  problems.value = answer.ok ? [] : answer.refusal.problems
  await read()
}

const rows = computed(() => deleted.value.map((site) => ({ ...site, id: site.slug })))
const columns: readonly Column<DeletedSite & { readonly id: string }>[] = [
  { key: 'name', head: 'Site', wraps: true, get: ({ name }) => name },
  { key: 'deletedAt', head: 'Deleted', mono: true, get: ({ deletedAt }) => dateText(deletedAt) },
  { key: 'deletedBy', head: 'By', get: ({ deletedBy }) => deletedBy },
  { key: 'acts', head: '', get: () => '' },
]
</script>

<template>
  <section v-if="rows.length > 0 || problems.length > 0" aria-labelledby="deleted">
    <h2 id="deleted">Deleted in the last 30 days</h2>
    <DataTable label="Deleted sites" :columns="columns" :rows="rows" empty="">
      <template #acts="{ row }">
        <span class="row-acts">
          <VBtn size="small" :aria-label="`Restore ${row.name}`" @click="restore(row)">Restore</VBtn>
          <VBtn size="small" :aria-label="`Delete ${row.name} for good`" @click="going = row"
            >Delete for good</VBtn
          >
        </span>
      </template>
    </DataTable>
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
    <AppDialog v-model="isGoing" :title="`Delete ${going?.name ?? ''} for good?`" @submit="purge">
      <p>Nothing of it can be brought back after that; the serials claimed for it are free again.</p>
      <template #actions>
        <VBtn @click="isGoing = false">Cancel</VBtn>
        <VBtn type="submit" variant="flat">Delete for good</VBtn>
      </template>
    </AppDialog>
  </section>
</template>
