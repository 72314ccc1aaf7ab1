<script setup lang="ts">
import { mdiContentCopy } from '@mdi/js'
import { useClipboard } from '@vueuse/core'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'
import { dateText } from '~/wording/adoption'
import type { Handed } from './people'

/** The link by which somebody chooses a password: it is shown this once. */
const handed = defineModel<Handed | null>({ required: true })
const isOpen = openAbout(handed)
const href = computed(() => (handed.value ? new URL(handed.value.link.path, location.origin).href : ''))
const { copy, copied } = useClipboard({ source: href, legacy: true })
</script>

<template>
  <AppDialog v-model="isOpen" :title="`Link for ${handed?.name ?? ''}`" persistent @submit="isOpen = false">
    <p>
      Hand it to {{ handed?.name }} yourself: whoever opens it first chooses the password. It works once,
      until <span class="mono">{{ dateText(handed?.link.expiresAt ?? 0) }}</span>, and is not shown again.
    </p>
    <VTextarea :model-value="href" label="Link" class="mono" rows="2" auto-grow readonly hide-details />
    <template #actions>
      <VBtn :prepend-icon="mdiContentCopy" @click="copy()">{{ copied ? 'Copied' : 'Copy the link' }}</VBtn>
      <VBtn type="submit" variant="flat">Done</VBtn>
    </template>
  </AppDialog>
</template>
