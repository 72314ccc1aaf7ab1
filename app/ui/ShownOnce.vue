<script setup lang="ts">
import { mdiContentCopy } from '@mdi/js'
import { useClipboard } from '@vueuse/core'
import AppDialog from './AppDialog.vue'
import { openAbout } from './opened'

/** A text that is shown this once, to be copied. */
const text = defineModel<string | null>({ required: true })
defineProps<{ title: string; label: string }>()
defineSlots<{ default: () => unknown }>()
const isOpen = openAbout(text)
const { copy, copied } = useClipboard({ source: () => text.value ?? '', legacy: true })
</script>

<template>
  <AppDialog v-model="isOpen" :title="title" :width="520" persistent @submit="isOpen = false">
    <p><slot /></p>
    <VTextarea
      :model-value="text ?? ''"
      :label="label"
      class="mono"
      rows="2"
      auto-grow
      readonly
      hide-details
    />
    <template #actions>
      <VBtn :prepend-icon="mdiContentCopy" @click="copy()">{{ copied ? 'Copied' : 'Copy' }}</VBtn>
      <VBtn type="submit" variant="flat">Done</VBtn>
    </template>
  </AppDialog>
</template>
