<script setup lang="ts">
import type { Severity } from '#core/findings'

defineProps<{ severity: Severity }>()
</script>

<template>
  <svg width="16" height="16" viewBox="0 0 16 16" role="img" :aria-label="severity">
    <g v-if="severity === 'blocker'">
      <path d="M8 0.5 L15.5 8 L8 15.5 L0.5 8 Z" fill="var(--brick)" />
      <rect x="4.2" y="6.9" width="7.6" height="2.2" fill="var(--panel)" />
    </g>
    <path
      v-else-if="severity === 'warning'"
      d="M8 1.8 L15 14.2 L1 14.2 Z"
      fill="none"
      stroke="var(--ochre)"
      stroke-width="1.8"
      stroke-linejoin="round"
    />
    <circle v-else cx="8" cy="8" r="6" fill="none" stroke="var(--deep)" stroke-width="1.8" />
  </svg>
</template>
