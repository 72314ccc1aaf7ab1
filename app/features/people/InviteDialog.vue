<script setup lang="ts">
import { ROLES, type Role } from '#contracts/roles'
import type { SiteLine } from '#contracts/api'
import type { Problem } from '#core/util'
import AppDialog from '~/ui/AppDialog.vue'
import { reasonOf } from '~/wording/problems'
import { ROLE_WORDS, SINGLE_SITES } from '~/wording/roles'
import type { Rights } from './people'

/** Adds a person: a name and a role; the link by which they choose a password is shown next. */
const open = defineModel<boolean>({ required: true })
const { invite } = defineProps<{
  invite: (name: string, rights: Rights) => Promise<readonly Problem[]>
  sites: readonly SiteLine[]
}>()
const name = ref('')
const SINGLE = 'single'
const role = ref<Role | typeof SINGLE>('rigger')
/** Of who is at single sites alone: where, and what they may do there. */
const where = ref<string[]>([])
const there = ref<Role>('rigger')
const isReady = computed(() => name.value.trim() !== '' && (role.value !== SINGLE || where.value.length > 0))
const problems = shallowRef<readonly Problem[]>([])
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
watch(open, () => {
  name.value = ''
  where.value = []
  problems.value = []
})

const roles = ROLES.map((value) => ({ value, title: ROLE_WORDS[value].name }))

async function add(): Promise<void> {
  if (!isReady.value) return
  const rights: Rights =
    role.value === SINGLE
      ? { role: null, sites: where.value.map((site) => ({ site, role: there.value })) }
      : { role: role.value, sites: [] }
  problems.value = await invite(name.value.trim(), rights)
  if (problems.value.length === 0) open.value = false
}
</script>

<template>
  <AppDialog v-model="open" title="Add a person" @submit="add">
    <VTextField
      ref="first"
      v-model="name"
      label="Name"
      maxlength="80"
      autocomplete="off"
      hint="They sign in with it, and it stands beside all that they record."
      persistent-hint
      required
    />
    <VRadioGroup v-model="role" label="Role at every site" hide-details>
      <VRadio v-for="one in ROLES" :key="one" :value="one">
        <template #label
          ><span
            ><b>{{ ROLE_WORDS[one].name }}.</b> {{ ROLE_WORDS[one].may }}</span
          ></template
        >
      </VRadio>
      <VRadio :value="SINGLE">
        <template #label
          ><span
            ><b>{{ SINGLE_SITES.name }}.</b> {{ SINGLE_SITES.may }}</span
          ></template
        >
      </VRadio>
    </VRadioGroup>
    <div v-if="role === SINGLE" class="single">
      <VSelect
        v-model="where"
        label="Sites"
        :items="sites.map(({ slug, name: title }) => ({ value: slug, title }))"
        multiple
        hide-details
        no-data-text="No site yet"
      />
      <VSelect v-model="there" label="Role there" :items="roles" hide-details />
    </div>
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not added: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="open = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="!isReady">Add and make a link</VBtn>
    </template>
  </AppDialog>
</template>

<style scoped>
.single {
  display: grid;
  grid-template-columns: 2fr 1fr;
  gap: 12px;
}
</style>
