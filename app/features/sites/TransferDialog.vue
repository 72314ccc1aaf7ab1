<script setup lang="ts">
import { mdiContentCopy } from '@mdi/js'
import { useClipboard } from '@vueuse/core'
import type { TransferCode } from '#contracts/accounts'
import type { SiteLine } from '#contracts/api'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'
import { dateText } from '~/wording/adoption'
import { reasonOf } from '~/wording/problems'

/** Gives a site to another organisation: by a code that its administrator takes it over with. */
const site = defineModel<SiteLine | null>({ required: true })
const isOpen = openAbout(site)
const code = shallowRef<TransferCode | null>(null)
const problems = shallowRef<readonly Problem[]>([])
watch(site, () => {
  code.value = null
  problems.value = []
})
const { copy, copied } = useClipboard({ source: () => code.value?.code ?? '', legacy: true })

async function make(): Promise<void> {
  if (!site.value || code.value) return void (site.value = null)
  const answer = await api<TransferCode>('POST', `sites/${encodeURIComponent(site.value.slug)}/transfer`, {})
  if (answer.ok) code.value = answer.value
  problems.value = answer.ok ? [] : answer.refusal.problems
}
</script>

<template>
  <AppDialog
    v-model="isOpen"
    :title="`Transfer ${site?.name ?? ''}`"
    :persistent="code !== null"
    @submit="make"
  >
    <p v-if="!code">
      An administrator of the other organisation takes the site over with a code, on their Sites page. From
      then on it is theirs, with its plan, records, photographs and keys; nobody here sees it any longer.
    </p>
    <template v-else>
      <p>
        Hand it over yourself: whoever enters it first has the site. It works once, until
        <span class="mono">{{ dateText(code.expiresAt) }}</span>, and is not shown again. Until then the site
        is yours.
      </p>
      <VTextField :model-value="code.code" label="Code" class="mono" readonly hide-details />
    </template>
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      No code: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn v-if="!code" @click="isOpen = false">Cancel</VBtn>
      <VBtn v-else :prepend-icon="mdiContentCopy" @click="copy()">{{
        copied ? 'Copied' : 'Copy the code'
      }}</VBtn>
      <VBtn type="submit" variant="flat">{{ code ? 'Done' : 'Make a code' }}</VBtn>
    </template>
  </AppDialog>
</template>
