<script setup lang="ts">
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import AppDialog from '~/ui/AppDialog.vue'
import { reasonOf } from '~/wording/problems'

/** Takes over a site by the code that an administrator of another organisation made. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ taken: [] }>()
const code = ref('')
const problems = shallowRef<readonly Problem[]>([])
const field = useTemplateRef<{ focus: () => void }>('field')
watch(field, (shown) => shown?.focus())
watch(open, () => {
  code.value = ''
  problems.value = []
})

async function take(): Promise<void> {
  if (code.value.trim() === '') return
  const answer = await api('POST', 'transfers', { code: code.value.trim() })
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  open.value = false
  emit('taken')
}
</script>

<template>
  <AppDialog v-model="open" title="Take over a site" @submit="take">
    <p>The organisation that has the site makes the code: Sites, the site’s menu, Transfer.</p>
    <VTextField
      ref="field"
      v-model="code"
      label="Code"
      class="mono"
      autocomplete="off"
      spellcheck="false"
      maxlength="100"
    />
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not taken over: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="open = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="code.trim() === ''">Take over</VBtn>
    </template>
  </AppDialog>
</template>
