<script setup lang="ts">
import { mdiDomainPlus } from '@mdi/js'
import type { OrganisationLine } from '#contracts/accounts'
import type { Problem } from '#core/util'
import AddOrganisationDialog from '~/features/organisations/AddOrganisationDialog.vue'
import LinkDialog from '~/features/people/LinkDialog.vue'
import type { Handed } from '~/features/people/people'
import HomeFrame from '~/shell/HomeFrame.vue'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import AppDialog from '~/ui/AppDialog.vue'
import DataTable from '~/ui/DataTable.vue'
import { openAbout } from '~/ui/opened'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'

/** The organisations of this installation, for who operates it. */
definePageMeta({
  middleware: () => {
    if (!useSession().me?.isOperator) return navigateTo('/')
  },
})
const session = useSession()
const organisations = shallowRef<readonly OrganisationLine[] | null>(null)
const problems = shallowRef<readonly Problem[]>([])
const handed = shallowRef<Handed | null>(null)
const isAdding = ref(false)
const leaving = shallowRef<OrganisationLine | null>(null)
const isLeaving = openAbout(leaving)

async function read(): Promise<void> {
  const answer = await api<readonly OrganisationLine[]>('GET', 'organisations')
  if (answer.ok) organisations.value = answer.value
  else problems.value = answer.refusal.problems
}
onMounted(read)

async function added(to: Handed): Promise<void> {
  // Once the dialog that asked has closed, and the focus is where it was.
  setTimeout(() => (handed.value = to))
  problems.value = []
  await read()
}
async function remove(): Promise<void> {
  const organisation = leaving.value
  leaving.value = null
  if (!organisation) return
  const answer = await api('DELETE', `organisations/${organisation.id}`)
  problems.value = answer.ok ? [] : answer.refusal.problems
  await read()
}

const rows = computed(() =>
  (organisations.value ?? []).map((line) => ({ ...line, id: String(line.id), line })),
)
type Row = (typeof rows.value)[number]
const columns: readonly Column<Row>[] = [
  { key: 'name', head: 'Name', strong: true, wraps: true, get: ({ name }) => name },
  { key: 'people', head: 'People', num: true, mono: true, get: ({ people }) => String(people) },
  { key: 'sites', head: 'Sites', num: true, mono: true, get: ({ sites }) => String(sites) },
  { key: 'addedAt', head: 'Added', mono: true, get: ({ addedAt }) => dateText(addedAt) },
  { key: 'acts', head: '', get: () => '' },
]
</script>

<template>
  <HomeFrame>
    <header>
      <h1>Organisations</h1>
      <span class="tools">
        <VBtn variant="flat" :prepend-icon="mdiDomainPlus" @click="isAdding = true">Add an organisation</VBtn>
      </span>
      <p>
        Each has its own people and sites, and sees nothing of the others. Here you see how many, not which.
      </p>
    </header>
    <ReadingNotice v-if="!organisations && problems.length === 0" words="Reading the organisations" />
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
    <DataTable v-if="organisations" label="Organisations" :columns="columns" :rows="rows" empty="None yet.">
      <template #acts="{ row }">
        <span v-if="row.name === session.me?.organisation" class="soft">yours</span>
        <VBtn v-else size="small" :aria-label="`Remove ${row.name}`" @click="leaving = row.line">Remove</VBtn>
      </template>
    </DataTable>
    <AddOrganisationDialog v-model="isAdding" @added="added" />
    <LinkDialog v-model="handed" />
    <AppDialog v-model="isLeaving" :title="`Remove ${leaving?.name ?? ''}?`" @submit="remove">
      <p>
        Its people cannot sign in again and its templates are gone. It must have no site left, deleted ones
        that can still be restored among them.
      </p>
      <template #actions>
        <VBtn @click="isLeaving = false">Cancel</VBtn>
        <VBtn type="submit" variant="flat">Remove</VBtn>
      </template>
    </AppDialog>
  </HomeFrame>
</template>
