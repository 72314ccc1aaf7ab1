<script setup lang="ts">
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'

const plan = usePlan()
const session = useSession()
</script>

<template>
  <span v-if="session.edits" class="pair">
    <VBtn :disabled="plan.done.length === 0" :title="plan.done.at(-1)?.words" @click="plan.undo"> Undo </VBtn>
    <VBtn :disabled="plan.undone.length === 0" :title="plan.undone.at(-1)?.words" @click="plan.redo">
      Redo
    </VBtn>
  </span>
</template>

<style scoped>
.pair {
  display: flex;
  gap: 4px;
}
</style>
