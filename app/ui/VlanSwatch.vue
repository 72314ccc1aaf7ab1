<script setup lang="ts">
import type { Thread } from '~/theme/threads'

defineProps<{ thread: Thread; width?: number }>()
</script>

<template>
  <svg :width="width ?? 26" height="6" aria-hidden="true">
    <line
      x1="0"
      y1="3"
      :x2="width ?? 26"
      y2="3"
      :stroke="thread.colour"
      stroke-width="4"
      :stroke-dasharray="thread.dash"
    />
  </svg>
</template>
