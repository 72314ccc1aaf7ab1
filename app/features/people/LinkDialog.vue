<script setup lang="ts">
import { mdiContentCopy, mdiEmailOutline } from '@mdi/js'
import { useClipboard } from '@vueuse/core'
import type { MailedLink } from '#contracts/accounts'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'
import { dateText } from '~/wording/adoption'
import { reasonOf } from '~/wording/problems'
import type { Handed } from './people'

/** The link by which somebody chooses a password: it is shown this once, and can be sent by mail. */
const handed = defineModel<Handed | null>({ required: true })
const isOpen = openAbout(handed)
const href = computed(() => (handed.value ? new URL(handed.value.link.path, location.origin).href : ''))
const { copy, copied } = useClipboard({ source: href, legacy: true })

const canSend = computed(
  () => handed.value !== null && handed.value.personId !== null && handed.value.link.canBeMailed,
)
const to = ref('')
const sentTo = ref('')
const isSending = ref(false)
const problems = shallowRef<readonly Problem[]>([])
watch(handed, () => {
  to.value = ''
  sentTo.value = ''
  problems.value = []
})

async function send(): Promise<void> {
  const now = handed.value
  if (!now || to.value.trim() === '' || isSending.value) return
  isSending.value = true
  const token = new URL(href.value).hash.slice(1)
  const told = { token, to: to.value.trim() }
  const answer = await api<MailedLink>('POST', `people/${now.personId}/link-mail`, told)
  isSending.value = false
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (answer.ok) sentTo.value = answer.value.to
}
/** Enter sends what is typed, and then closes. */
const submit = () => (to.value.trim() === sentTo.value ? (isOpen.value = false) : send())
</script>

<template>
  <AppDialog v-model="isOpen" :title="`Link for ${handed?.name ?? ''}`" persistent @submit="submit">
    <p>
      Hand it to {{ handed?.name }} yourself{{ canSend ? ', or send it by mail' : '' }}: whoever opens it
      first chooses the password. It works once, until
      <span class="mono">{{ dateText(handed?.link.expiresAt ?? 0) }}</span>, and is not shown again.
    </p>
    <VTextarea :model-value="href" label="Link" class="mono" rows="2" auto-grow readonly hide-details />
    <div v-if="canSend" class="mail">
      <VTextField
        v-model="to"
        label="Mail address"
        type="email"
        maxlength="254"
        autocomplete="off"
        hide-details
      />
      <VBtn :prepend-icon="mdiEmailOutline" :loading="isSending" :disabled="to.trim() === ''" @click="send"
        >Send</VBtn
      >
    </div>
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not sent: {{ reasonOf(problem) }}.
    </p>
    <p v-if="sentTo" role="status">Sent to {{ sentTo }}.</p>
    <template #actions>
      <VBtn :prepend-icon="mdiContentCopy" @click="copy()">{{ copied ? 'Copied' : 'Copy the link' }}</VBtn>
      <VBtn variant="flat" @click="isOpen = false">Done</VBtn>
    </template>
  </AppDialog>
</template>

<style scoped>
.mail {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
