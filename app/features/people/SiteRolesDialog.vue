<script setup lang="ts">
import type { PersonLine } from '#contracts/accounts'
import type { SiteLine } from '#contracts/api'
import { ROLES, type Role } from '#contracts/roles'
import { useSession } from '~/stores/session'
import AppDialog from '~/ui/AppDialog.vue'
import DataTable from '~/ui/DataTable.vue'
import { openAbout } from '~/ui/opened'
import type { Column } from '~/ui/columns'
import { ROLE_WORDS } from '~/wording/roles'
import type { Rights } from './people'

/** What somebody may do at single sites, whatever they may elsewhere; and whether they add organisations. */
const person = defineModel<PersonLine | null>({ required: true })
const { sites, change } = defineProps<{
  sites: readonly SiteLine[]
  change: (person: PersonLine, wanted: Partial<Rights> & { readonly isOperator?: boolean }) => Promise<void>
}>()
const session = useSession()
const isOpen = openAbout(person)
/** By slug; a site that is not in it is as elsewhere. */
const chosen = ref<Record<string, Role>>({})
const operates = ref(false)
watch(person, (now) => {
  chosen.value = Object.fromEntries((now?.sites ?? []).map(({ site, role }) => [site, role]))
  operates.value = now?.isOperator ?? false
})

const ELSEWHERE = 'elsewhere'
const roles = computed(() => [
  { value: ELSEWHERE, title: person.value?.role === null ? 'Does not see it' : 'As at every site' },
  ...ROLES.map((value) => ({ value, title: ROLE_WORDS[value].name })),
])
function choose(slug: string, value: Role | typeof ELSEWHERE): void {
  const { [slug]: _before, ...others } = chosen.value
  chosen.value = value === ELSEWHERE ? others : { ...others, [slug]: value }
}
const rows = computed(() => sites.map((site) => ({ ...site, id: site.slug })))
const columns: readonly Column<(typeof rows.value)[number]>[] = [
  { key: 'name', head: 'Site', wraps: true, get: ({ name }) => name },
  { key: 'role', head: 'Role there', get: ({ slug }) => chosen.value[slug] ?? '' },
]

async function keep(): Promise<void> {
  const whose = person.value
  person.value = null
  if (!whose) return
  await change(whose, {
    sites: Object.entries(chosen.value).map(([site, role]) => ({ site, role })),
    ...(operates.value === whose.isOperator ? {} : { isOperator: operates.value }),
  })
}
</script>

<template>
  <AppDialog v-model="isOpen" :title="`Sites of ${person?.name ?? ''}`" @submit="keep">
    <p>What they have open ends when it changes; they sign in again.</p>
    <DataTable label="Roles at single sites" :columns="columns" :rows="rows" empty="No site yet.">
      <template #role="{ row }">
        <VSelect
          :model-value="chosen[row.slug] ?? ELSEWHERE"
          :items="roles"
          :aria-label="`Role at ${row.name}`"
          hide-details
          @update:model-value="(role) => choose(row.slug, role)"
        />
      </template>
    </DataTable>
    <VCheckbox
      v-if="session.me?.isOperator"
      v-model="operates"
      label="Adds and removes organisations of this installation"
      hide-details
    />
    <template #actions>
      <VBtn @click="isOpen = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat">Keep</VBtn>
    </template>
  </AppDialog>
</template>
