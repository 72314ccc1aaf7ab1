<script setup lang="ts">
import type { Problem } from '#core/util'
import NewPassword from '~/ui/NewPassword.vue'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import { reasonOf } from '~/wording/problems'

const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const hasPassword = computed(() => session.me?.hasPassword !== false)
const current = ref('')
const wanted = ref('')
const isGood = ref(false)
const isChanged = ref(false)
const problems = shallowRef<readonly Problem[]>([])

async function change(): Promise<void> {
  isChanged.value = false
  const answer = await api('POST', 'me/password', { current: current.value, wanted: wanted.value })
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  current.value = wanted.value = ''
  isChanged.value = true
  await session.refresh()
  emit('changed')
}
</script>

<template>
  <form @submit.prevent="change">
    <h2>Password</h2>
    <p v-if="!hasPassword" class="soft">
      You have none, and sign in by single sign-on. One can be chosen within ten minutes of signing in.
    </p>
    <VTextField
      v-else
      v-model="current"
      label="Password until now"
      type="password"
      name="current-password"
      autocomplete="current-password"
      required
    />
    <NewPassword
      v-model="wanted"
      v-model:good="isGood"
      label="New password"
      :whose="session.me?.name ?? ''"
    />
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not changed: {{ reasonOf(problem) }}.
    </p>
    <p v-if="isChanged" role="status">Changed. Wherever else you were signed in you are not any longer.</p>
    <VBtn type="submit" variant="flat" :disabled="!isGood || (hasPassword && current === '')">{{
      hasPassword ? 'Change password' : 'Choose it'
    }}</VBtn>
  </form>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
  max-width: 400px;
}
form > .v-btn {
  justify-self: start;
}
</style>
