<script setup lang="ts">
import type { Problem } from '#core/util'
import { sentenceOf } from '~/wording/problems'

/** Why a list is not imported, as far as one reads. */
defineProps<{ problems: readonly Problem[] }>()
const MOST = 8
</script>

<template>
  <div v-if="problems.length > 0" role="alert">
    <p class="wrong-words">Nothing is imported while this is so:</p>
    <p v-for="(problem, i) in problems.slice(0, MOST)" :key="i" class="wrong-words">
      {{ sentenceOf(problem) }}
    </p>
    <p v-if="problems.length > MOST" class="wrong-words">and {{ problems.length - MOST }} more</p>
  </div>
</template>
