<script setup lang="ts">
import type { OneTimeLink } from '#contracts/accounts'
import type { Problem } from '#core/util'
import type { Handed } from '~/features/people/people'
import { api } from '~/stores/api'
import AppDialog from '~/ui/AppDialog.vue'
import { reasonOf } from '~/wording/problems'

/** Adds an organisation and who administers it first; their link is shown next. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ added: [handed: Handed] }>()
const name = ref('')
const administrator = ref('')
const problems = shallowRef<readonly Problem[]>([])
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
watch(open, () => {
  name.value = ''
  administrator.value = ''
  problems.value = []
})
const isReady = computed(() => name.value.trim() !== '' && administrator.value.trim() !== '')

async function add(): Promise<void> {
  if (!isReady.value) return
  const told = { name: name.value.trim(), administrator: administrator.value.trim() }
  const answer = await api<{ readonly link: OneTimeLink }>('POST', 'organisations', told)
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  open.value = false
  emit('added', { personId: null, name: told.administrator, link: answer.value.link })
}
</script>

<template>
  <AppDialog v-model="open" title="Add an organisation" @submit="add">
    <p>It has its own people and sites. Nobody of another organisation sees them, you neither.</p>
    <VTextField ref="first" v-model="name" label="Name" maxlength="80" autocomplete="off" required />
    <VTextField
      v-model="administrator"
      label="Name of its first administrator"
      maxlength="80"
      autocomplete="off"
      hint="They add the others. You get a link to hand to them."
      persistent-hint
      required
    />
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not added: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="open = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="!isReady">Add and make a link</VBtn>
    </template>
  </AppDialog>
</template>
