<script setup lang="ts">
/** A page with one thing on it, in its middle: what is met before one is in, or where there is nothing else. */
defineSlots<{ default: () => unknown }>()
</script>

<template>
  <main><slot /></main>
</template>

<style scoped>
main {
  min-height: 100vh;
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 28px;
  padding: 16px;
}
</style>
