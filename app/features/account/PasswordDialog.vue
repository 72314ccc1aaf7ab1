<script setup lang="ts">
import type { Problem } from '#core/util'
import AppDialog from '~/ui/AppDialog.vue'
import { useSession } from '~/stores/session'
import { openAbout } from '~/ui/opened'
import { reasonOf } from '~/wording/problems'
import type { PasswordAction } from './password-action'

/** Asks for the password before something of the account changes: an open browser may be somebody else's. */
defineSlots<{ default?: () => unknown }>()
const action = defineModel<PasswordAction | null>({ required: true })
const session = useSession()
const hasPassword = computed(() => session.me?.hasPassword !== false)
const isOpen = openAbout(action)
const name = ref('')
const password = ref('')
const busy = ref(false)
const problems = shallowRef<readonly Problem[]>([])
const fields = [
  useTemplateRef<{ focus: () => void }>('nameField'),
  useTemplateRef<{ focus: () => void }>('passwordField'),
]
watch(fields, (shown) => shown.find((field) => field !== null)?.focus())
watch(action, () => {
  name.value = password.value = ''
  problems.value = []
})
const isReady = computed(
  () => (password.value !== '' || !hasPassword.value) && (!action.value?.named || name.value.trim() !== ''),
)

async function go(): Promise<void> {
  if (!action.value || !isReady.value || busy.value) return
  busy.value = true
  const { problems: found = [], next } = await action.value.go(password.value, name.value.trim())
  busy.value = false
  problems.value = found
  if (found.length > 0) return
  action.value = null
  // What opens next takes the focus once this dialog has given it back.
  await nextTick()
  await nextTick()
  next?.()
}
</script>

<template>
  <AppDialog v-model="isOpen" :title="action?.title ?? ''" :width="460" @submit="go">
    <p>{{ action?.words }}</p>
    <VTextField
      v-if="action?.named"
      ref="nameField"
      v-model="name"
      label="What you call it"
      maxlength="80"
      autocomplete="off"
      required
    />
    <slot />
    <p v-if="!hasPassword" class="soft">
      You have no password: this goes within ten minutes of signing in by single sign-on.
    </p>
    <VTextField
      v-else
      ref="passwordField"
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
      <VBtn type="submit" variant="flat" :disabled="!isReady || busy">{{ action?.verb }}</VBtn>
    </template>
  </AppDialog>
</template>
