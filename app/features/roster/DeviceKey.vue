<script setup lang="ts">
import { mdiContentCopy, mdiKeyPlus, mdiKeyRemove } from '@mdi/js'
import { useClipboard } from '@vueuse/core'
import type { RosterRow } from '#contracts/api'
import type { OneTimeSecret } from '#contracts/bootstrap'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'
import { dateText } from '~/wording/adoption'
import { reasonOf } from '~/wording/problems'
import { keyExplanation } from './words'

/** How a claimed device shows that it is the one: a secret that is printed for it, and taking all of that back. */
const row = defineModel<RosterRow | null>({ required: true })
defineProps<{ name: string }>()
const plan = usePlan()
const isOpen = openAbout(row)
const made = shallowRef<OneTimeSecret | null>(null)
const problems = shallowRef<readonly Problem[]>([])
const busy = ref(false)
const text = computed(() =>
  made.value ? [made.value.serial, made.value.secret, made.value.fingerprint].join('\n') : '',
)
const { copy, copied } = useClipboard({ source: text, legacy: true })
watch(row, () => {
  made.value = null
  problems.value = []
})
const path = computed(
  () => `sites/${encodeURIComponent(plan.slug)}/claims/${encodeURIComponent(row.value?.serial ?? '')}/secret`,
)

async function make(): Promise<void> {
  busy.value = true
  const answer = await api<OneTimeSecret>('POST', path.value, {})
  busy.value = false
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (answer.ok) made.value = answer.value
}
async function revoke(): Promise<void> {
  busy.value = true
  const answer = await api('DELETE', path.value)
  busy.value = false
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (answer.ok) isOpen.value = false
}
</script>

<template>
  <AppDialog
    v-model="isOpen"
    :title="`How ${name} proves itself`"
    :width="560"
    :persistent="made !== null"
    @submit="made ? (isOpen = false) : make()"
  >
    <template v-if="made">
      <p>
        Put these into the device over its console before it starts. The secret works once, until
        <span class="mono">{{ dateText(made.expiresAt) }}</span>, and is not shown again.
      </p>
      <VTextField
        :model-value="made.serial"
        label="User name: its serial"
        class="mono"
        readonly
        hide-details
      />
      <VTextField :model-value="made.secret" label="One-time secret" class="mono" readonly hide-details />
      <VTextarea
        :model-value="made.fingerprint"
        label="Fingerprint of the owner's certificate, SHA-256"
        class="mono"
        rows="3"
        auto-grow
        readonly
        hide-details
      />
    </template>
    <p v-else>{{ keyExplanation(row?.key ?? null) }}</p>
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not done: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <template v-if="made">
        <VBtn :prepend-icon="mdiContentCopy" @click="copy()">{{ copied ? 'Copied' : 'Copy all three' }}</VBtn>
        <VBtn type="submit" variant="flat">Done</VBtn>
      </template>
      <template v-else>
        <VBtn @click="isOpen = false">Cancel</VBtn>
        <VBtn v-if="row?.key !== 'revoked'" :prepend-icon="mdiKeyRemove" :disabled="busy" @click="revoke"
          >Revoke</VBtn
        >
        <VBtn type="submit" variant="flat" :prepend-icon="mdiKeyPlus" :disabled="busy">{{
          row?.key ? 'Make a new secret' : 'Make a secret'
        }}</VBtn>
      </template>
    </template>
  </AppDialog>
</template>
