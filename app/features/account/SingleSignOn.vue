<script setup lang="ts">
import { mdiAccountArrowRightOutline } from '@mdi/js'
import type { OwnIdentity } from '#contracts/single-sign-on'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import { dateText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'
import PasswordDialog from './PasswordDialog.vue'
import type { PasswordAction } from './password-action'
import { goToProvider } from './provider'

/** Signing in by the provider that whoever runs the installation has named; nothing where they named none. */
const session = useSession()
const identity = shallowRef<OwnIdentity | null>(null)
const problems = shallowRef<readonly Problem[]>([])
const action = shallowRef<PasswordAction | null>(null)

async function read(): Promise<void> {
  const answer = await api<OwnIdentity>('GET', 'me/identity')
  if (answer.ok) identity.value = answer.value
  else problems.value = answer.refusal.problems
}
onMounted(read)

const connect = (provider: string): PasswordAction => ({
  title: `Connect ${provider}`,
  words: `You go to ${provider} and come back. From then on whoever it says is you signs in as you.`,
  verb: 'Go there',
  async go(password) {
    return { problems: await goToProvider('connect', { password }) }
  },
})
const drop = (provider: string): PasswordAction => ({
  title: `Remove ${provider}`,
  words: 'You sign in by your password then.',
  verb: 'Remove',
  async go(password) {
    const answer = await api('POST', 'me/identity/remove', { password })
    if (!answer.ok) return { problems: answer.refusal.problems }
    await read()
    return {}
  },
})
</script>

<template>
  <section v-if="identity?.provider || problems.length > 0" aria-labelledby="single-sign-on">
    <h2 id="single-sign-on">Single sign-on</h2>
    <template v-if="identity?.provider">
      <template v-if="identity.since">
        <p>
          You sign in by {{ identity.provider }}, connected
          <span class="mono">{{ dateText(identity.since) }}</span>.
        </p>
        <VBtn v-if="session.me?.hasPassword" @click="action = drop(identity.provider)"
          >Remove {{ identity.provider }}</VBtn
        >
        <p v-else class="soft">Choose a password above before you remove it: you have no other way in.</p>
      </template>
      <template v-else>
        <p>Not connected to {{ identity.provider }}.</p>
        <VBtn :prepend-icon="mdiAccountArrowRightOutline" @click="action = connect(identity.provider)"
          >Connect {{ identity.provider }}</VBtn
        >
      </template>
    </template>
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
    <PasswordDialog v-model="action" />
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
section > .v-btn {
  justify-self: start;
}
</style>
