<script setup lang="ts">
import { mdiPencilOutline } from '@mdi/js'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import AppDialog from '~/ui/AppDialog.vue'
import { reasonOf } from '~/wording/problems'

/** Renames one's own organisation. */
const session = useSession()
const open = ref(false)
const name = ref('')
const problems = shallowRef<readonly Problem[]>([])
const field = useTemplateRef<{ focus: () => void }>('field')
watch(field, (shown) => shown?.focus())
watch(open, () => {
  name.value = session.me?.organisation ?? ''
  problems.value = []
})

async function keep(): Promise<void> {
  const wanted = name.value.trim()
  if (wanted === '' || !session.me) return
  const answer = await api('PATCH', 'organisation', { name: wanted })
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  session.me = { ...session.me, organisation: wanted }
  open.value = false
}
</script>

<template>
  <VBtn :prepend-icon="mdiPencilOutline" @click="open = true">Rename the organisation</VBtn>
  <AppDialog v-model="open" title="Rename the organisation" @submit="keep">
    <VTextField ref="field" v-model="name" label="Name" maxlength="80" autocomplete="organization" required />
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not renamed: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="open = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="name.trim() === ''">Rename</VBtn>
    </template>
  </AppDialog>
</template>
