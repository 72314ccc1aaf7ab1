<script setup lang="ts">
import { useOutbox, type RefusedWrite } from '~/stores/outbox'
import { usePlan } from '~/stores/plan'
import { refusedWords } from '~/wording/queued-writes'

/** A record that had waited for the server and was then refused: what it said, and why. */
defineProps<{ refused: RefusedWrite }>()
const plan = usePlan()
const outbox = useOutbox()
</script>

<template>
  <VAlert type="error" role="alert">
    {{ plan.draft ? refusedWords(refused, plan.draft) : '' }}
    <template #append><VBtn @click="outbox.dismiss(refused.write.key)">Dismiss</VBtn></template>
  </VAlert>
</template>
