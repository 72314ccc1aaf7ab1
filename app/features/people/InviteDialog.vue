<script setup lang="ts">
import { ROLES, type Role } from '#contracts/roles'
import type { Problem } from '#core/util'
import AppDialog from '~/ui/AppDialog.vue'
import { reasonOf } from '~/wording/problems'
import { ROLE_WORDS } from '~/wording/roles'

/** Adds a person: a name and a role; the link by which they choose a password is shown next. */
const open = defineModel<boolean>({ required: true })
const { invite } = defineProps<{ invite: (name: string, role: Role) => Promise<readonly Problem[]> }>()
const name = ref('')
const role = ref<Role>('rigger')
const problems = shallowRef<readonly Problem[]>([])
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
watch(open, () => {
  name.value = ''
  problems.value = []
})

async function add(): Promise<void> {
  if (name.value.trim() === '') return
  problems.value = await invite(name.value.trim(), role.value)
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
    <VRadioGroup v-model="role" label="Role" hide-details>
      <VRadio v-for="one in ROLES" :key="one" :value="one">
        <template #label
          ><span
            ><b>{{ ROLE_WORDS[one].name }}.</b> {{ ROLE_WORDS[one].may }}</span
          ></template
        >
      </VRadio>
    </VRadioGroup>
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not added: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="open = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="name.trim() === ''">Add and make a link</VBtn>
    </template>
  </AppDialog>
</template>
