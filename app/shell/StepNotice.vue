<script setup lang="ts">
import { usePlan } from '~/stores/plan'
import type { Step } from '~/stores/steps'

/** What one press has just done to the plan, with the way back. */
const SHOWN_MS = 6000
const { step } = defineProps<{ step: Step | null }>()
const plan = usePlan()
const words = ref('')
const open = ref(false)
watch(
  () => step,
  (made) => {
    open.value = made !== null
    if (made) words.value = made.words
  },
  { immediate: true },
)
function takeBack(): void {
  open.value = false
  plan.undo()
}
</script>

<template>
  <VSnackbar v-model="open" :timeout="SHOWN_MS" location="bottom" class="no-print">
    {{ words }}
    <template #actions>
      <VBtn variant="text" @click="takeBack">Take back</VBtn>
      <VBtn variant="text" @click="open = false">Close<span class="sr"> this notice</span></VBtn>
    </template>
  </VSnackbar>
</template>
