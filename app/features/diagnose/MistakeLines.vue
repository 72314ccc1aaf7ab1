<script setup lang="ts">
import type { Mistake } from '#core/diagnose'
import type { FailureScenario } from '#core/queries'
import type { Plan } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { mistakeWords, sheetOfMistake } from '~/wording/mistakes'

/** The mistakes of one explanation, and where the plan says how it should be. */
defineProps<{ mistakes: readonly Mistake[]; plan: Plan }>()
const emit = defineEmits<{ look: [scenario: FailureScenario] }>()
const store = usePlan()
</script>

<template>
  <p v-for="(mistake, i) in mistakes" :key="i">
    <b>{{ i > 0 ? 'and: ' : '' }}{{ mistakeWords(mistake, plan) }}</b>
    <VBtn v-if="mistake.failed.length > 0" variant="text" @click="emit('look', mistake.failed)">
      see the grid so
    </VBtn>
    <NuxtLink v-else-if="sheetOfMistake(mistake)" :to="`/sites/${store.slug}/${sheetOfMistake(mistake)}`"
      >how it should be</NuxtLink
    >
  </p>
</template>

<style scoped>
.v-btn {
  margin-left: 8px;
}
a {
  color: var(--deep);
  text-decoration: underline;
  margin-left: 8px;
  font-size: 13px;
}
</style>
