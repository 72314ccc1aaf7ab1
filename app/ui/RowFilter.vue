<script setup lang="ts">
import { mdiFilterOutline } from '@mdi/js'

/** Words that the rows of a long table must hold to be shown. */
defineProps<{ label: string; shown: number; all: number }>()
const wanted = defineModel<string>({ required: true })
</script>

<template>
  <VTextField
    v-model="wanted"
    class="filter"
    :prepend-inner-icon="mdiFilterOutline"
    clearable
    :hint="wanted ? `${shown} of ${all} rows` : ''"
    persistent-hint
    hide-details="auto"
    @keydown.esc.stop="wanted = ''"
  >
    <template #label
      >Filter<span class="sr">&nbsp;{{ label }}</span></template
    >
  </VTextField>
</template>

<style scoped>
.filter {
  max-width: 320px;
  margin-bottom: 6px;
}
</style>
