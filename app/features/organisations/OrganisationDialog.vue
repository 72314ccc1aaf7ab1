<script setup lang="ts">
import { mdiPencilOutline } from '@mdi/js'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import AppDialog from '~/ui/AppDialog.vue'
import { reasonOf } from '~/wording/problems'

/** Renames one's own organisation, and says whether everybody in it has to have a second factor. */
const session = useSession()
const open = ref(false)
const name = ref('')
const needsFactor = ref(false)
const problems = shallowRef<readonly Problem[]>([])
const field = useTemplateRef<{ focus: () => void }>('field')
watch(field, (shown) => shown?.focus())
watch(open, () => {
  name.value = session.me?.organisation ?? ''
  needsFactor.value = session.me?.needsFactor ?? false
  problems.value = []
})

async function keep(): Promise<void> {
  const wanted = name.value.trim()
  if (wanted === '') return
  const answer = await api('PATCH', 'organisation', { name: wanted, needsFactor: needsFactor.value })
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  await session.refresh()
  open.value = false
}
</script>

<template>
  <VBtn :prepend-icon="mdiPencilOutline" @click="open = true">The organisation</VBtn>
  <AppDialog v-model="open" title="The organisation" @submit="keep">
    <VTextField ref="field" v-model="name" label="Name" maxlength="80" autocomplete="organization" required />
    <VCheckbox
      v-model="needsFactor"
      label="Everybody has to have a second factor"
      hint="Who has none sets one up before anything else. Whoever comes by single sign-on alone needs none here."
      persistent-hint
    />
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not changed: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="open = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="name.trim() === ''">Keep</VBtn>
    </template>
  </AppDialog>
</template>
