<script setup lang="ts">
import type { Problem } from '#core/util'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'
import { reasonOf } from '~/wording/problems'
import type { Deed } from './deeds'

/** Asks for the password before something of the account changes: an open browser may be somebody else's. */
const deed = defineModel<Deed | null>({ required: true })
const isOpen = openAbout(deed)
const name = ref('')
const password = ref('')
const busy = ref(false)
const problems = shallowRef<readonly Problem[]>([])
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
watch(deed, () => {
  name.value = password.value = ''
  problems.value = []
})
const isReady = computed(() => password.value !== '' && (!deed.value?.named || name.value.trim() !== ''))

async function go(): Promise<void> {
  if (!deed.value || !isReady.value || busy.value) return
  busy.value = true
  const { problems: found = [], next } = await deed.value.go(password.value, name.value.trim())
  busy.value = false
  problems.value = found
  if (found.length > 0) return
  deed.value = null
  // What opens next takes the focus once this dialog has given it back.
  await nextTick()
  await nextTick()
  next?.()
}
</script>

<template>
  <AppDialog v-model="isOpen" :title="deed?.title ?? ''" :width="460" @submit="go">
    <p>{{ deed?.words }}</p>
    <VTextField
      v-if="deed?.named"
      v-model="name"
      label="What you call it"
      placeholder="Telephone"
      maxlength="80"
      autocomplete="off"
      required
    />
    <VTextField
      ref="first"
      v-model="password"
      label="Your password"
      type="password"
      name="current-password"
      autocomplete="current-password"
      required
    />
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not done: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="isOpen = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="!isReady || busy">{{ deed?.verb }}</VBtn>
    </template>
  </AppDialog>
</template>
