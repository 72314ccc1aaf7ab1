<script setup lang="ts">
/** A small flag that tells a state by its shape, with words for screen readers. */
export type FlagState = 'full' | 'outline' | 'cut' | 'half' | 'bare'

const props = defineProps<{ state: FlagState; says?: string | undefined }>()
const MEANING: Readonly<Record<FlagState, string>> = {
  full: 'proven',
  outline: 'predicted',
  cut: 'against the intent',
  half: 'blocked',
  bare: 'nothing known yet',
}
const words = computed(() => props.says ?? MEANING[props.state])
</script>

<template>
  <svg
    class="pennant"
    :class="state"
    width="17"
    height="15"
    viewBox="0 0 17 15"
    role="img"
    :aria-label="words"
  >
    <title>{{ words }}</title>
    <line x1="2" y1="0" x2="2" y2="15" stroke="var(--ink)" stroke-width="1.5" />
    <path v-if="state === 'full'" d="M2.75 1 L15 5 L2.75 9 Z" fill="var(--kelp)" stroke="var(--kelp)" />
    <path
      v-else-if="state === 'outline'"
      d="M2.75 1.5 L14 5 L2.75 8.5 Z"
      fill="none"
      stroke="var(--ink)"
      stroke-width="1.2"
    />
    <path v-else-if="state === 'cut'" d="M2.75 1 L15 1 L11.5 5 L15 9 L2.75 9 Z" fill="var(--brick)" />
    <path v-else-if="state === 'half'" d="M2.75 6 L12 9.5 L2.75 13 Z" fill="var(--magenta)" />
  </svg>
</template>

<style scoped>
.pennant {
  flex: none;
  vertical-align: -2px;
}
</style>
