<script setup lang="ts">
import type { Problem } from '#core/util'
import { useSession } from '~/stores/session'
import { reasonOf } from '~/wording/problems'

const session = useSession()
const route = useRoute()
const name = ref('')
const password = ref('')
const problems = shallowRef<readonly Problem[]>([])
const busy = ref(false)
// At once: a field that takes the focus later takes what is typed into the next one.
const first = useTemplateRef<{ focus: () => void }>('first')
onMounted(() => first.value?.focus())

async function enter(): Promise<void> {
  busy.value = true
  problems.value = []
  problems.value = await session.enter('sign-in', { name: name.value, password: password.value })
  busy.value = false
  if (problems.value.length > 0) return
  const wanted = String(route.query['to'] ?? '/')
  await navigateTo(/^\/(?![/\\])/.test(wanted) ? wanted : '/')
}
</script>

<template>
  <main class="in">
    <svg width="120" height="190" viewBox="0 0 120 190" aria-hidden="true">
      <rect x="30" y="6" width="6" height="184" fill="var(--ink)" />
      <path d="M36 10 L104 30 L36 50 Z" fill="var(--deep)" />
      <g fill="var(--paper)" stroke="var(--ink)" stroke-width="3">
        <rect v-for="i in 5" :key="i" x="18" :y="50 + i * 24" width="30" height="8" />
      </g>
    </svg>
    <form @submit.prevent="enter">
      <h1>Able Mast</h1>
      <p class="soft">Plan, rehearse, raise, prove and hand over a site's network.</p>
      <VTextField ref="first" label="Name" v-model="name" name="name" autocomplete="username" required />
      <VTextField
        label="Password"
        v-model="password"
        name="password"
        type="password"
        autocomplete="current-password"
        required
      />
      <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
        Not signed in: {{ reasonOf(problem) }}.
      </p>
      <VBtn type="submit" variant="flat" :disabled="busy">{{ busy ? 'Asking' : 'Sign in' }}</VBtn>
    </form>
  </main>
</template>

<style scoped>
form > .v-btn {
  justify-self: start;
}
.in {
  min-height: 100vh;
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 28px;
  padding: 16px;
}
form {
  width: 320px;
  display: grid;
  gap: 14px;
}
@media (max-width: 599px) {
  svg {
    display: none;
  }
  form {
    width: 100%;
    max-width: 360px;
  }
}
</style>
