<script setup lang="ts">
import { STEPS, stepsDone, type AdoptionState } from '#core/adopt'
import { STEP_WORDS } from '~/wording/adoption'

/** The steps of adoption as rungs: done ones are filled, the one that waits for a person is crossed. */
const props = defineProps<{ state: AdoptionState; stuck: boolean }>()
const done = computed(() => stepsDone(props.state))
</script>

<template>
  <svg
    width="112"
    height="14"
    viewBox="0 0 112 14"
    role="img"
    :aria-label="`${done} of ${STEPS.length} steps: ${
      STEPS.slice(0, done)
        .map((s) => STEP_WORDS[s])
        .join(', ') || 'none'
    }`"
  >
    <line x1="2" y1="7" x2="110" y2="7" stroke="var(--ink)" stroke-width="2" />
    <g v-for="(step, i) in STEPS" :key="step">
      <title>{{ STEP_WORDS[step] }}</title>
      <rect
        :x="2 + i * 23"
        y="2"
        width="16"
        height="10"
        :fill="i < done ? 'var(--kelp)' : 'var(--panel)'"
        :stroke="i < done ? 'var(--kelp)' : 'var(--ink)'"
        stroke-width="1.5"
      />
      <path
        v-if="stuck && i === done"
        :d="`M${5 + i * 23} 3.5 l10 7 m0 -7 l-10 7`"
        stroke="var(--magenta)"
        stroke-width="2"
      />
    </g>
  </svg>
</template>
