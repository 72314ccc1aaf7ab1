<script setup lang="ts">
import { useMissingPart } from '~/stores/missing-part'
import { useOutbox } from '~/stores/outbox'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { sentenceOf } from '~/wording/problems'
import { NOT_KEPT, NOT_SAVED_YET, silentWords, waitingWords } from '~/wording/waiting'

const RefusedRecord = defineAsyncComponent(() => import('./RefusedRecord.vue'))

/** What has not reached the server, and why. */
const plan = usePlan()
const outbox = useOutbox()
const isUnanswered = computed(() => plan.problems.every((problem) => problem.code === 'no-answer'))
const site = useSite()
const missing = useMissingPart()
const refused = computed(() => outbox.refused.filter(({ write }) => write.slug === plan.slug))
</script>

<template>
  <div class="notices">
    <VAlert v-if="plan.state === 'failed'" type="warning" role="alert">
      <template v-if="isUnanswered">{{ NOT_SAVED_YET }}</template>
      <template v-else>Not saved: {{ plan.problems.map(sentenceOf).join('; ') }}.</template>
      <template #append><VBtn @click="plan.save()">Try now</VBtn></template>
    </VAlert>
    <VAlert
      v-else-if="plan.problems.length > 0 && plan.state !== 'conflict' && plan.draft"
      type="warning"
      role="alert"
    >
      {{ plan.problems.map(sentenceOf).join('; ') }}
      <template #append><VBtn @click="plan.problems = []">Dismiss</VBtn></template>
    </VAlert>
    <VAlert v-if="missing.isMissing" type="warning" role="alert">
      {{ NOT_KEPT }}
      <template #append><VBtn @click="missing.isMissing = false">Dismiss</VBtn></template>
    </VAlert>
    <VAlert v-if="outbox.waiting.length > 0 || (site.isSilent && plan.draft)" type="info" role="status">
      {{ site.isSilent ? silentWords(site.heardMs, outbox.sentMs) : '' }}
      {{ outbox.waiting.length > 0 ? waitingWords(outbox.waiting.length) : '' }}
      <template v-if="outbox.waiting.length > 0" #append
        ><VBtn @click="outbox.drain()">Try now</VBtn></template
      >
    </VAlert>
    <RefusedRecord v-for="each in refused" :key="each.write.key" :refused="each" />
    <VAlert v-if="plan.loading === 'failed'" type="error" role="alert">
      {{ plan.problems.map(sentenceOf).join('; ') }} <NuxtLink to="/">Sites</NuxtLink>
    </VAlert>
  </div>
</template>

<style scoped>
@media print {
  .notices {
    display: none;
  }
}
</style>
