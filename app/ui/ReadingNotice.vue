<script setup lang="ts">
/** Stands where a table will be while it is read. */
const { words } = defineProps<{ words: string }>()
</script>

<template>
  <div>
    <p role="status" class="soft">{{ words }}</p>
    <VSkeletonLoader type="table-row-divider@4" aria-hidden="true" color="transparent" />
  </div>
</template>
