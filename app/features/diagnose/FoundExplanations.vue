<script setup lang="ts">
import type { Diagnosis, Explanation } from '#core/diagnose'
import type { FailureScenario } from '#core/queries'
import type { Plan } from '#core/schema'
import MistakeLines from './MistakeLines.vue'
import { explainsWords, foreseenWords, groupAlike, moreAlikeWords, noExplanationWords } from './words'
import { useSite } from '~/stores/site'
import { answersTo, howToLook, lookWords, worthWords } from '~/wording/looks'
import { oneOfWords } from '~/wording/mistakes'
import { testWords } from '~/wording/proof'

/** The explanations that were found, best first, and what to try or look at next. */
const props = defineProps<{
  found: Diagnosis
  plan: Plan
  nameOf: (id: string) => string
  /** Observations in all. */
  total: number
}>()
const emit = defineEmits<{
  tried: [testId: string, passed: boolean]
  looked: [got: string]
  look: [scenario: FailureScenario]
}>()
const site = useSite()
const groups = computed(() => groupAlike(props.found.explanations))
const groupWords = ({ mistakes: [mistake] }: Explanation, size: number) =>
  mistake ? oneOfWords(mistake.code, size) : ''
const next = computed(() => {
  const { next } = props.found
  const test = next && 'testId' in next && site.proof?.tests.find(({ id }) => id === next.testId)
  return test ? testWords(test, props.plan) : null
})
/** What is looked at next has no answer until one is given. */
const nothingYet = null as string | null
function looked(got: string | null): void {
  if (got !== null) emit('looked', got)
}
</script>

<template>
  <section aria-label="Explanations" class="found">
    <p v-if="found.foreseen.length > 0" class="small">
      {{ foreseenWords(found.foreseen, nameOf) }}
    </p>
    <p v-if="found.explanations.length === 0">
      {{ noExplanationWords(found) }}
    </p>
    <div v-if="found.next" class="next">
      <p v-if="'testId' in found.next">
        <b>Try next: {{ nameOf(found.next.testId) }}.</b>
        {{ next?.expect }}
      </p>
      <p v-else>
        <b>Look next: {{ lookWords(found.next.look, plan) }}.</b>
        {{ howToLook(found.next.look) }}
      </p>
      <p class="row-of">
        <template v-if="'testId' in found.next"
          ><VBtn @click="emit('tried', found.next.testId, true)"> It passed</VBtn
          ><VBtn @click="emit('tried', found.next.testId, false)"> It failed </VBtn></template
        >
        <VSelect
          v-else
          label="Seen"
          :model-value="nothingYet"
          :items="answersTo(found.next.look, plan)"
          item-title="text"
          @update:model-value="looked"
        />
        <span class="soft small">{{ worthWords(found.alike, found.next.left) }}</span>
      </p>
    </div>
    <p v-else-if="found.explanations.length > 1" class="small soft">
      Nothing that is open tells these apart: look at them in this order.
    </p>
    <ol>
      <li v-for="([first, ...others], i) in groups" :key="i">
        <span class="n mono">{{ i + 1 }}</span>
        <div v-if="first && others.length === 0">
          <MistakeLines :mistakes="first.mistakes" :plan="plan" @look="emit('look', $event)" />
          <p class="small soft">{{ explainsWords(first.against, total, nameOf) }}</p>
        </div>
        <details v-else-if="first">
          <summary>
            <b>{{ groupWords(first, others.length + 1) }}</b>
          </summary>
          <MistakeLines
            v-for="(one, k) in [first, ...others]"
            :key="k"
            :mistakes="one.mistakes"
            :plan="plan"
            @look="emit('look', $event)"
          />
          <p class="small soft">each {{ explainsWords(first.against, total, nameOf) }}</p>
        </details>
      </li>
    </ol>
    <p v-if="found.alike > found.explanations.length" class="small soft">
      {{ moreAlikeWords(found.alike) }}
    </p>
    <p class="small soft">{{ found.tried.toLocaleString('en') }} sites tried.</p>
  </section>
</template>

<style scoped>
.found {
  border: 1px solid var(--line);
  background: var(--panel);
  padding: 10px 14px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 28px 1fr;
  padding: 5px 0;
  border-bottom: 1px solid var(--hair);
}
.n {
  color: var(--soft);
}
.found > p {
  margin-top: 8px;
}
.row-of {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
  margin-top: 4px;
}
.next {
  margin-top: 8px;
  padding: 6px 10px;
  border-left: 3px solid var(--magenta);
}
</style>
