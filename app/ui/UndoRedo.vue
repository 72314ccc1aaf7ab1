<script setup lang="ts">
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'

const plan = usePlan()
const session = useSession()
/** What the next press takes back, and what it brings again. */
const undoes = computed(() => plan.done.at(-1)?.words)
const redoes = computed(() => plan.undone.at(-1)?.words)
</script>

<template>
  <span v-if="session.edits" class="pair">
    <VBtn :disabled="!undoes" @click="plan.undo">
      Undo
      <VTooltip v-if="undoes" activator="parent" location="bottom" :text="undoes" :aria-label="undoes" />
    </VBtn>
    <VBtn :disabled="!redoes" @click="plan.redo">
      Redo
      <VTooltip v-if="redoes" activator="parent" location="bottom" :text="redoes" :aria-label="redoes" />
    </VBtn>
  </span>
</template>

<style scoped>
.pair {
  display: flex;
  gap: 4px;
}
</style>
