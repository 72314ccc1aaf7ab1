<script setup lang="ts">
/** Stands where a table will be while it is read. */
const { words } = defineProps<{ words: string }>()
</script>

<template>
  <div>
    <p role="status" class="soft">{{ words }}</p>
    <VProgressLinear indeterminate height="2" color="primary" aria-hidden="true" />
  </div>
</template>
