<script setup lang="ts">
import type { Problem } from '#core/util'
import AppDialog from './AppDialog.vue'
import ImportProblems from './ImportProblems.vue'
import ListInput from './ListInput.vue'

/** A list or a file that is chosen or pasted, with what is wrong in it, and one button that takes it. */
const open = defineModel<boolean>({ required: true })
const text = defineModel<string>('text', { required: true })
const {
  title,
  placeholder,
  problems,
  offer,
  width = undefined,
} = defineProps<{
  title: string
  placeholder: string
  problems: readonly Problem[]
  /** What taking it does; empty while there is nothing to take. */
  offer: string
  width?: number
}>()
const emit = defineEmits<{ lay: [] }>()
function lay(): void {
  if (offer === '') return
  emit('lay')
  open.value = false
  text.value = ''
}
</script>

<template>
  <AppDialog v-model="open" :title="title" :width="width" @submit="lay">
    <p class="soft"><slot /></p>
    <slot name="fields" />
    <ListInput v-model="text" :placeholder="placeholder" />
    <ImportProblems :problems="problems" />
    <slot name="found" />
    <template #actions>
      <VBtn variant="flat" :disabled="offer === ''" @click="lay">{{ offer || 'Nothing to apply' }}</VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template>
  </AppDialog>
</template>
