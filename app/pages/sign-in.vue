<script setup lang="ts">
import type { Problem } from '#core/util'
import { askPasskey, canUsePasskeys, type RequestOptions } from '~/features/account/passkeys'
import { goToProvider, providerName } from '~/features/account/provider'
import PlainFrame from '~/shell/PlainFrame.vue'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import { reasonOf } from '~/wording/problems'

const session = useSession()
const route = useRoute()
const name = ref('')
const password = ref('')
const problems = shallowRef<readonly Problem[]>([])
const code = ref('')
/** Whether the password was right and a code is asked for. */
const needsCode = ref(false)
const busy = ref(false)
const hasPasskeys = ref(false)
const provider = ref<string | null>(null)
// At once: a field that takes the focus later takes what is typed into the next one.
const first = useTemplateRef<{ focus: () => void }>('first')
onMounted(async () => {
  first.value?.focus()
  hasPasskeys.value = canUsePasskeys()
  provider.value = await providerName()
})
const codeField = useTemplateRef<{ focus: () => void }>('codeField')
watch(codeField, (field) => field?.focus())

async function enter(): Promise<void> {
  const given = code.value.trim()
  await come(() =>
    session.enter('sign-in', {
      name: name.value,
      password: password.value,
      ...(given === '' ? {} : { code: given }),
    }),
  )
}

async function enterByPasskey(): Promise<void> {
  await come(async () => {
    const options = await api<RequestOptions>('POST', 'sign-in/passkey-options', {})
    if (!options.ok) return options.refusal.problems
    const given = await askPasskey(options.value)
    return given.ok ? session.enter('sign-in/passkey', { response: given.value }) : given.problems
  })
}

async function enterByProvider(): Promise<void> {
  busy.value = true
  problems.value = await goToProvider('sign-in', {})
  busy.value = problems.value.length === 0
}

async function come(by: () => Promise<readonly Problem[]>): Promise<void> {
  busy.value = true
  problems.value = []
  const found = await by()
  busy.value = false
  // That a code is wanted is no mistake of anybody's.
  const isAsked = found[0]?.code === 'second-factor-needed' && !needsCode.value
  needsCode.value ||= isAsked
  problems.value = isAsked ? [] : found
  if (found.length > 0) return
  const wanted = String(route.query['to'] ?? '/')
  await navigateTo(/^\/(?![/\\])/.test(wanted) ? wanted : '/')
}
</script>

<template>
  <PlainFrame>
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
      <VTextField
        v-if="needsCode"
        ref="codeField"
        label="Code of your app, or a recovery code"
        v-model="code"
        name="one-time-code"
        autocomplete="one-time-code"
        spellcheck="false"
        maxlength="40"
        required
      />
      <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
        Not signed in: {{ reasonOf(problem) }}.
      </p>
      <div class="ways">
        <VBtn type="submit" variant="flat" :disabled="busy">{{ busy ? 'Asking' : 'Sign in' }}</VBtn>
        <VBtn v-if="hasPasskeys" :disabled="busy" @click="enterByPasskey">Use a passkey</VBtn>
        <VBtn v-if="provider" :disabled="busy" @click="enterByProvider">Use {{ provider }}</VBtn>
      </div>
    </form>
  </PlainFrame>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
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
