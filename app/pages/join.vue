<script setup lang="ts">
import type { LinkFor } from '#contracts/accounts'
import type { Problem } from '#core/util'
import { goToProvider, providerName } from '~/features/account/provider'
import PlainFrame from '~/shell/PlainFrame.vue'
import NewPassword from '~/ui/NewPassword.vue'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import { reasonOf } from '~/wording/problems'

/** Where a one-time link leads: whoever it is for chooses a password. */
const session = useSession()
const route = useRoute()
/** It stands behind the address, where no server and no log sees it. */
const token = route.hash.slice(1)
const whom = shallowRef<LinkFor | null>(null)
const problems = shallowRef<readonly Problem[]>([])
const name = ref('')
const organisation = ref('')
const password = ref('')
const isGood = ref(false)
const busy = ref(false)
/** By which somebody new comes in without a password; null where there is none. */
const provider = ref<string | null>(null)
const TITLES: Readonly<Record<LinkFor['kind'], string>> = {
  first: 'The first administrator',
  invite: 'Welcome to Able Mast',
  reset: 'A new password',
}

onMounted(async () => {
  const answer = await api<LinkFor>('POST', 'join/whom', { token })
  if (answer.ok) whom.value = answer.value
  else problems.value = answer.refusal.problems
  if (whom.value?.kind === 'invite') provider.value = await providerName()
})

async function enterByProvider(): Promise<void> {
  busy.value = true
  problems.value = await goToProvider('join', { token })
  busy.value = problems.value.length === 0
}

const isReady = computed(
  () =>
    isGood.value &&
    (whom.value?.kind !== 'first' || (name.value.trim() !== '' && organisation.value.trim() !== '')),
)

async function enter(): Promise<void> {
  if (!isReady.value || busy.value) return
  busy.value = true
  problems.value =
    whom.value?.kind === 'first'
      ? await session.enter('join/first', {
          token,
          name: name.value.trim(),
          organisation: organisation.value.trim(),
          password: password.value,
        })
      : await session.enter('join', { token, password: password.value })
  busy.value = false
  if (problems.value.length === 0) await navigateTo('/', { replace: true })
}
</script>

<template>
  <PlainFrame>
    <form v-if="whom" @submit.prevent="enter">
      <h1>{{ TITLES[whom.kind] }}</h1>
      <template v-if="whom.kind === 'first'">
        <p class="soft">Nobody administers this Able Mast yet. You will add the others.</p>
        <VTextField
          v-model="name"
          label="Your name"
          name="name"
          autocomplete="username"
          maxlength="80"
          autofocus
          required
        />
        <VTextField
          v-model="organisation"
          label="Your organisation"
          name="organization"
          autocomplete="organization"
          maxlength="80"
          hint="Who the sites belong to: a company, an association, or yourself."
          persistent-hint
          required
        />
      </template>
      <template v-else>
        <p>
          Your name here is <b>{{ whom.name }}</b>; you sign in with it.
        </p>
        <p v-if="whom.kind === 'reset'" class="soft">Whoever is signed in as you will be signed out.</p>
      </template>
      <div v-if="provider" class="provider">
        <VBtn :disabled="busy" @click="enterByProvider">Use {{ provider }}</VBtn>
        <span class="soft">or choose a password:</span>
      </div>
      <NewPassword
        v-model="password"
        v-model:good="isGood"
        :whose="whom.name || name"
        :carries-name="whom.kind !== 'first'"
      />
      <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
        Not kept: {{ reasonOf(problem) }}.
      </p>
      <VBtn type="submit" variant="flat" :disabled="!isReady || busy">Choose it and sign in</VBtn>
    </form>
    <div v-else-if="problems.length > 0" role="alert">
      <h1>This link does not work</h1>
      <p v-for="problem in problems" :key="problem.code">{{ reasonOf(problem) }}.</p>
      <p><NuxtLink to="/sign-in">Sign in</NuxtLink></p>
    </div>
  </PlainFrame>
</template>

<style scoped>
form {
  width: 100%;
  max-width: 400px;
  display: grid;
  gap: 12px;
}
.provider {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
form > .v-btn {
  justify-self: start;
}
</style>
