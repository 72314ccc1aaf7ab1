<script setup lang="ts">
import { useOutbox, type Refused } from '~/stores/outbox'
import { usePlan } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'
import { letterWords } from '~/wording/letters'

/** A record that had waited for the server and was then refused: what it said, and why. */
defineProps<{ refused: Refused }>()
const plan = usePlan()
const outbox = useOutbox()
</script>

<template>
  <VAlert type="error" role="alert">
    The server did not take this: {{ plan.draft ? letterWords(refused.letter, plan.draft) : '' }}.
    {{ refused.problems.map(reasonOf).join('; ') }}.
    <template #append><VBtn @click="outbox.forget(refused.letter.key)">Dismiss</VBtn></template>
  </VAlert>
</template>
