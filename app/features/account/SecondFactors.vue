<script setup lang="ts">
import { mdiCellphoneKey, mdiKeyPlus } from '@mdi/js'
import type { Factors, NewAuthenticator, PasskeyLine, RecoveryCodes } from '#contracts/factors'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import DataTable from '~/ui/DataTable.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'
import { count } from '~/wording/count'
import { sentenceOf } from '~/wording/problems'
import type { ActionOutcome, PasswordAction } from './password-action'
import ConfirmAuthenticator from './ConfirmAuthenticator.vue'
import PasswordDialog from './PasswordDialog.vue'
import RecoveryCodesDialog from './RecoveryCodesDialog.vue'
import { canUsePasskeys, makePasskey, type CreationOptions } from './passkeys'

/** What is asked beside the password: an authenticator app, passkeys, recovery codes. */
const session = useSession()
const factors = shallowRef<Factors | null>(null)
const problems = shallowRef<readonly Problem[]>([])
const begun = shallowRef<NewAuthenticator | null>(null)
const codes = shallowRef<readonly string[] | null>(null)

const action = shallowRef<PasswordAction | null>(null)

async function read(): Promise<void> {
  const answer = await api<Factors>('GET', 'me/factors')
  if (!answer.ok) return void (problems.value = answer.refusal.problems)
  factors.value = answer.value
  await session.refresh()
}
onMounted(read)

function shown({ codes: made }: RecoveryCodes): void {
  codes.value = made.length > 0 ? made : null
  void read()
}
async function removed(path: string, password: string): Promise<ActionOutcome> {
  const answer = await api('POST', path, { password })
  if (!answer.ok) return { problems: answer.refusal.problems }
  await read()
  return {}
}

const setUp: PasswordAction = {
  title: 'Set up an authenticator app',
  words: 'From then on a code of the app is asked for when you sign in.',
  verb: 'Go on',
  async go(password) {
    const answer = await api<NewAuthenticator>('POST', 'me/totp', { password })
    if (!answer.ok) return { problems: answer.refusal.problems }
    return { next: () => (begun.value = answer.value) }
  },
}
const dropApp: PasswordAction = {
  title: 'Remove the authenticator app',
  words: 'Its codes are not asked for, and not taken, any longer.',
  verb: 'Remove',
  go: (password) => removed('me/totp/remove', password),
}
const addPasskey: PasswordAction = {
  title: 'Add a passkey',
  words: 'This device, a telephone or a security key. With a passkey you sign in without a password.',
  verb: 'Add',
  named: true,
  async go(password, name) {
    const options = await api<CreationOptions>('POST', 'me/passkeys/options', {
      password,
    })
    if (!options.ok) return { problems: options.refusal.problems }
    const made = await makePasskey(options.value)
    if (!made.ok) return { problems: made.problems }
    const answer = await api<RecoveryCodes>('POST', 'me/passkeys', { name, response: made.value })
    if (!answer.ok) return { problems: answer.refusal.problems }
    return { next: () => shown(answer.value) }
  },
}
const dropPasskey = ({ id, name }: PasskeyLine): PasswordAction => ({
  title: `Remove the passkey ${name}`,
  words: 'Nobody signs in by it any longer. Remove it from the device, too.',
  verb: 'Remove',
  go: (password) => removed(`me/passkeys/${id}/remove`, password),
})
const newCodes: PasswordAction = {
  title: 'New recovery codes',
  words: 'Those of before work no more.',
  verb: 'Make new ones',
  async go(password) {
    const answer = await api<RecoveryCodes>('POST', 'me/recovery-codes', { password })
    if (!answer.ok) return { problems: answer.refusal.problems }
    return { next: () => shown(answer.value) }
  },
}

const isOn = computed(
  () => factors.value !== null && (factors.value.authenticator || factors.value.passkeys.length > 0),
)
const columns: readonly Column<PasskeyLine>[] = [
  { key: 'name', head: 'Passkey', strong: true, wraps: true, get: ({ name }) => name },
  { key: 'addedAt', head: 'Added', mono: true, get: ({ addedAt }) => dateText(addedAt) },
  { key: 'usedAt', head: 'Used last', mono: true, get: ({ usedAt }) => (usedAt ? dateText(usedAt) : '—') },
  { key: 'acts', head: '', get: () => '' },
]
</script>

<template>
  <section v-if="factors" aria-labelledby="factors">
    <h2 id="factors">Second factor</h2>
    <p v-if="session.me?.needsFactor && !session.me.hasFactor" class="wrong-words" role="status">
      {{ session.me.organisation }} asks everybody for a second factor: set one up to go on.
    </p>
    <p v-else-if="!isOn">None yet: whoever knows your password can sign in as you.</p>
    <p v-else>
      Beside the password you give a code or use a passkey.
      {{ count(factors.recoveryCodes, 'recovery code') }} left for when you have neither.
    </p>
    <DataTable
      v-if="factors.passkeys.length > 0"
      label="Passkeys"
      :columns="columns"
      :rows="factors.passkeys"
      empty=""
    >
      <template #acts="{ row }">
        <VBtn size="small" :aria-label="`Remove the passkey ${row.name}`" @click="action = dropPasskey(row)"
          >Remove</VBtn
        >
      </template>
    </DataTable>
    <div class="acts">
      <VBtn v-if="!factors.authenticator" :prepend-icon="mdiCellphoneKey" @click="action = setUp"
        >Set up an authenticator app</VBtn
      >
      <VBtn v-else @click="action = dropApp">Remove the authenticator app</VBtn>
      <VBtn
        v-if="factors.canPasskey && canUsePasskeys()"
        :prepend-icon="mdiKeyPlus"
        @click="action = addPasskey"
        >Add a passkey</VBtn
      >
      <VBtn v-if="isOn" @click="action = newCodes">New recovery codes</VBtn>
    </div>
    <p v-if="!factors.canPasskey" class="soft small">
      Passkeys work where this Able Mast is reached by a name and over https.
    </p>
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
    <PasswordDialog v-model="action" />
    <ConfirmAuthenticator v-model="begun" @confirmed="shown" />
    <RecoveryCodesDialog v-model="codes" />
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
