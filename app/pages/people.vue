<script setup lang="ts">
import { mdiAccountPlusOutline } from '@mdi/js'
import type { PersonLine } from '#contracts/accounts'
import type { Role } from '#contracts/roles'
import HomeFrame from '~/shell/HomeFrame.vue'
import InviteDialog from '~/features/people/InviteDialog.vue'
import LinkDialog from '~/features/people/LinkDialog.vue'
import RemovePersonDialog from '~/features/people/RemovePersonDialog.vue'
import OrganisationDialog from '~/features/organisations/OrganisationDialog.vue'
import SiteRolesDialog from '~/features/people/SiteRolesDialog.vue'
import { usePeople } from '~/features/people/people'
import { clearWords, sitesWords, stateWords } from '~/features/people/words'
import { useSession } from '~/stores/session'
import DataTable from '~/ui/DataTable.vue'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'
import { ROLE_WORDS, SINGLE_SITES } from '~/wording/roles'

/** Who may come in, and what they may do. */
definePageMeta({
  middleware: () => {
    if (!useSession().administers) return navigateTo('/')
  },
})
const session = useSession()
const { people, sites, problems, handed, read, invite, change, remove, relink, clearFactors } = usePeople()
onMounted(read)

const isInviting = ref(false)
const leaving = shallowRef<PersonLine | null>(null)
const placed = shallowRef<PersonLine | null>(null)
const rows = computed(() =>
  (people.value ?? []).map((person) => ({ ...person, id: String(person.id), person })),
)
type Row = (typeof rows.value)[number]
const columns: readonly Column<Row>[] = [
  { key: 'name', head: 'Name', strong: true, get: ({ name }) => name },
  { key: 'role', head: 'Role', get: ({ role }) => roleName(role) },
  { key: 'sites', head: 'Otherwise at', wraps: true, get: ({ person }) => sitesWords(person) },
  { key: 'state', head: 'State', get: ({ person }) => stateWords(person) },
  { key: 'seenAt', head: 'Seen last', mono: true, get: ({ seenAt }) => (seenAt ? dateText(seenAt) : '—') },
  { key: 'acts', head: '', get: () => '' },
]
const SINGLE = 'single'
const roleName = (role: Role | null): string => (role === null ? SINGLE_SITES : ROLE_WORDS[role]).name
const roles = Object.entries({ ...ROLE_WORDS, [SINGLE]: SINGLE_SITES }).map(([value, { name, may }]) => ({
  value,
  title: name,
  props: { subtitle: may },
}))
const setRole = ({ person }: Row, value: Role | typeof SINGLE) =>
  change(person, { role: value === SINGLE ? null : value })
const isMe = ({ name }: Row) => name === session.me?.name
</script>

<template>
  <HomeFrame>
    <header>
      <h1>People</h1>
      <span class="tools">
        <OrganisationDialog />
        <VBtn variant="flat" :prepend-icon="mdiAccountPlusOutline" @click="isInviting = true"
          >Add a person</VBtn
        >
      </span>
      <p>
        Each gets a link that works once, and chooses a password by it. A role holds for every site of
        {{ session.me?.organisation }}; at single sites somebody can have another.
      </p>
    </header>
    <ReadingNotice v-if="!people && problems.length === 0" words="Reading the people" />
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
    <DataTable v-if="people" label="People" :columns="columns" :rows="rows" empty="Nobody yet.">
      <template #role="{ row }">
        <span v-if="isMe(row)">{{ roleName(row.role) }}</span>
        <VSelect
          v-else
          :model-value="row.role ?? SINGLE"
          :items="roles"
          :aria-label="`Role of ${row.name}`"
          hide-details
          class="role"
          @update:model-value="(role) => setRole(row, role)"
        />
      </template>
      <template #acts="{ row }">
        <span v-if="isMe(row)" class="soft">you</span>
        <span v-else class="row-acts">
          <VBtn size="small" :aria-label="`Sites of ${row.name}`" @click="placed = row.person">Sites</VBtn>
          <VBtn
            v-if="row.state !== 'disabled'"
            size="small"
            :aria-label="`New link for ${row.name}`"
            @click="relink(row.person)"
            >New link</VBtn
          >
          <VBtn
            size="small"
            :aria-label="`${row.state === 'disabled' ? 'Enable' : 'Disable'} ${row.name}`"
            @click="change(row.person, { isDisabled: row.state !== 'disabled' })"
            >{{ row.state === 'disabled' ? 'Enable' : 'Disable' }}</VBtn
          >
          <VBtn
            v-if="row.person.hasFactor || row.person.hasIdentity"
            size="small"
            :aria-label="`${clearWords(row.person)} of ${row.name}`"
            @click="clearFactors(row.person)"
            >{{ clearWords(row.person) }}</VBtn
          >
          <VBtn size="small" :aria-label="`Remove ${row.name}`" @click="leaving = row.person">Remove</VBtn>
        </span>
      </template>
    </DataTable>
    <InviteDialog v-model="isInviting" :invite="invite" :sites="sites" />
    <SiteRolesDialog v-model="placed" :sites="sites" :change="change" />
    <LinkDialog v-model="handed" />
    <RemovePersonDialog v-model="leaving" :remove="remove" />
  </HomeFrame>
</template>

<style scoped>
.role {
  min-width: 190px;
}
</style>
