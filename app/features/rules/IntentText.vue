<script setup lang="ts">
import { readIntents, writeIntents } from '#core/filter'
import type { Problem } from '#core/util'
import CodeEditor from '~/ui/CodeEditor.vue'
import { mistakesOf } from '~/ui/code/mistakes'
import { intentWords } from './intent-completion'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { sentenceOf } from '~/wording/problems'

/** All intents as text: one a line, and the same comes back. */
const plan = usePlan()
const session = useSession()
const intents = computed(() => plan.draft?.intents ?? [])
const text = ref('')
const wrong = shallowRef<readonly Problem[]>([])
watch(intents, () => void (text.value = writeIntents(intents.value)), { immediate: true })
watch(text, (typed) => {
  const read = readIntents(typed)
  wrong.value = read.ok ? [] : read.problems
})
const mistakes = computed(() => mistakesOf(wrong.value))
const complete = (before: string) => (plan.draft ? intentWords(plan.draft, before) : [])
function take(): void {
  const read = readIntents(text.value)
  if (!read.ok) return
  plan.edit(
    'intents typed',
    '',
    (draft) => void (draft.intents = structuredClone(read.value) as typeof draft.intents),
  )
}
</script>

<template>
  <p class="small soft">
    One intent a line:
    <span class="mono">name: from -> to: services survives what during when logged # note</span>. From and to
    are a network, <span class="mono">device</span>, <span class="mono">tunnel</span> or
    <span class="mono">peer</span> or <span class="mono">group</span> with its id, a prefix, or any, inside,
    internet, gateway.
  </p>
  <CodeEditor
    v-model="text"
    label="Intents as text"
    grammar="intents"
    :readonly="!session.edits"
    :mistakes="mistakes"
    :complete="complete"
  />
  <ul v-if="wrong.length > 0" class="wrong-words" role="alert">
    <li v-for="(p, i) in wrong.slice(0, 6)" :key="i">{{ sentenceOf(p) }}</li>
  </ul>
  <div v-if="session.edits" class="acts">
    <VBtn variant="flat" :disabled="wrong.length > 0 || text === writeIntents(intents)" @click="take">
      Apply these intents
    </VBtn>
  </div>
</template>

<style scoped>
ul {
  margin: 6px 0;
  padding-left: 18px;
}
.acts {
  margin-top: 8px;
}
</style>
