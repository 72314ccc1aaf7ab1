<script setup lang="ts">
/** A page that is there to be printed: what stands above it, the way back and the button, is not printed. */
const { back, ready = true } = defineProps<{ back: string; ready?: boolean }>()
const print = () => globalThis.print()
</script>

<template>
  <main class="page">
    <div class="no-print acts">
      <VBtn :to="back">Back</VBtn>
      <VBtn variant="flat" :disabled="!ready" @click="print">Print</VBtn>
      <slot name="tools" />
    </div>
    <slot />
  </main>
</template>

<style scoped>
.page {
  height: 100vh;
  overflow: auto;
  padding: 18px 24px 40px;
  background: var(--panel);
}
.acts {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-bottom: 12px;
}
@media print {
  .page {
    height: auto;
    overflow: visible;
    padding: 0;
    background: none;
  }
}
</style>
