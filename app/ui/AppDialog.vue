<script setup lang="ts">
import { useFocusReturn } from './focus-return'

/** A dialog: its title, what it asks, and at its foot what one can do. Enter in a field submits it. */
withDefaults(
  defineProps<{
    title: string
    width?: number
    /** Stays until one has decided. */
    persistent?: boolean
    /** Read by screen readers in place of the title. */
    label?: string
  }>(),
  { width: 640, persistent: false, label: '' },
)
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ submit: [] }>()
useFocusReturn(open)
defineSlots<{ default: () => unknown; actions?: () => unknown }>()
</script>

<template>
  <VDialog v-model="open" :aria-label="label || title" :width="width" :persistent="persistent" scrollable>
    <VForm @submit.prevent="emit('submit')">
      <VCard>
        <VCardTitle tag="h1">{{ title }}</VCardTitle>
        <VCardText class="dialog-text"><slot /></VCardText>
        <VCardActions v-if="$slots.actions"><slot name="actions" /></VCardActions>
      </VCard>
    </VForm>
  </VDialog>
</template>
