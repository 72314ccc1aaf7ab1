<script setup lang="ts">
/** The parts of a sheet, one shown at a time. Arrow keys move between them. */
export interface Part {
  readonly key: string
  readonly name: string
  /** Shown after the name: how many, or how far. */
  readonly tally?: string
}
defineProps<{ parts: readonly Part[]; label: string }>()
const shown = defineModel<string>({ required: true })
</script>

<template>
  <VTabs v-model="shown" class="tabs" :aria-label="label" mandatory>
    <VTab v-for="part in parts" :id="`tab-${part.key}`" :key="part.key" :value="part.key">
      {{ part.name }} <span v-if="part.tally" class="soft small tally">{{ part.tally }}</span>
    </VTab>
  </VTabs>
</template>

<style scoped>
.tabs {
  max-width: 100%;
  border-bottom: 1px solid var(--ink);
  margin-bottom: 10px;
}
.tally {
  margin-left: 4px;
}
</style>
