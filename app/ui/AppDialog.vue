<script setup lang="ts">
import type { ComponentPublicInstance } from 'vue'
import { useResizeObserver } from '@vueuse/core'
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
/** What scrolls can be reached by Tab, so that arrows scroll it. */
const body = useTemplateRef<ComponentPublicInstance>('body')
const scrolls = ref(false)
useResizeObserver(body, ([entry]) => {
  if (entry) scrolls.value = entry.target.scrollHeight > entry.target.clientHeight
})
defineSlots<{ default: () => unknown; actions?: () => unknown }>()
</script>

<template>
  <VDialog v-model="open" :aria-label="label || title" :width="width" :persistent="persistent" scrollable>
    <VForm @submit.prevent="emit('submit')">
      <VCard>
        <VCardTitle tag="h1">{{ title }}</VCardTitle>
        <VCardText ref="body" class="dialog-text" :tabindex="scrolls ? 0 : undefined"><slot /></VCardText>
        <VCardActions v-if="$slots.actions"><slot name="actions" /></VCardActions>
      </VCard>
    </VForm>
  </VDialog>
</template>
