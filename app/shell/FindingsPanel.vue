<script setup lang="ts">
import { lacksOf } from '#core/brief'
import { findingKey, type Finding } from '#core/findings'
import SeverityIcon from '~/ui/SeverityIcon.vue'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { mendWords, tally, wordsOf } from '~/wording/findings'
import { lackWords, quietWords } from '~/wording/lacks'
import { usePointer } from './finding-navigation'

/** The Lookout: everything that is wrong with the plan, this sheet's first. */
const props = defineProps<{ sheet: string }>()
const analysis = useAnalysis()
const plan = usePlan()
const session = useSession()
const { goTo, at } = usePointer()

const findings = computed(() => analysis.analysis?.findings ?? [])
const lacks = computed(() => (plan.draft ? lacksOf(plan.draft) : []))
const here = computed(() => findings.value.filter((f) => f.sheet === props.sheet))
const elsewhere = computed(() => findings.value.filter((f) => f.sheet !== props.sheet))
/** How the plan stands, in a few words. */
const standing = computed(() =>
  findings.value.length === 0 && lacks.value.length > 0
    ? lackWords(lacks.value.slice(0, 1))
    : tally(findings.value),
)
const mends = (finding: Finding) => finding.mend !== null && session.edits
const mend = (finding: Finding) => finding.mend && plan.apply(mendWords(finding.mend), finding.mend.changes)
</script>

<template>
  <aside class="lookout" aria-label="Lookout">
    <header>
      <h2>Lookout</h2>
      <span class="soft small" aria-live="polite">{{
        analysis.analysis ? standing : analysis.isUnloaded ? 'not judged' : 'computing'
      }}</span>
    </header>
    <p v-if="analysis.isUnloaded" class="pad">
      The plan is not judged: what does that is not kept on this device, and the server does not answer.
    </p>
    <p v-if="analysis.defect" class="wrong-words pad">
      A defect of Able Mast stopped the computation: {{ analysis.defect }}
    </p>
    <template v-for="(list, part) in { here, elsewhere }" :key="part">
      <h3 v-if="part === 'elsewhere' && list.length > 0">On other sheets</h3>
      <ul>
        <li
          v-for="finding in list"
          :key="findingKey(finding)"
          :class="{ pointed: at === findingKey(finding) }"
        >
          <span class="mark"><SeverityIcon :severity="finding.severity" /></span>
          <VBtn variant="text" class="title" @click="goTo(finding)">
            {{ wordsOf(finding).title }}
          </VBtn>
          <p class="small">
            {{ wordsOf(finding).what }} <span class="soft">{{ wordsOf(finding).why }}</span>
            <span v-if="!mends(finding)" class="code mono">{{ finding.code }}</span>
          </p>
          <div v-if="mends(finding)" class="foot">
            <VBtn @click="mend(finding)">
              {{ finding.mend && mendWords(finding.mend) }}
            </VBtn>
            <span class="code mono">{{ finding.code }}</span>
          </div>
        </li>
      </ul>
    </template>
    <p v-if="analysis.analysis && findings.length === 0" class="soft pad">
      {{ quietWords(lacks) }}
    </p>
    <slot />
  </aside>
</template>

<style scoped>
.lookout {
  height: 100%;
  overflow: auto;
  background: var(--panel);
}
header {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  align-items: baseline;
  padding: 10px 14px;
  border-bottom: 1px solid var(--line);
  min-height: 41px;
}
h3 {
  font-size: 13px;
  line-height: 18px;
  padding: 12px 14px 4px;
  margin: 0;
  color: var(--soft);
  font-weight: 700;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  position: relative;
  padding: 8px 14px 10px 38px;
  border-bottom: 1px solid var(--line);
}
li.pointed {
  background: var(--shallow);
}
.mark {
  position: absolute;
  left: 13px;
  top: 10px;
  line-height: 0;
}
.title.v-btn {
  width: 100%;
  height: auto;
  padding: 0;
  justify-content: start;
  text-align: left;
  font-size: 14px;
  line-height: 20px;
  color: var(--ink);
  text-decoration: none;
}
.title :deep(.v-btn__content) {
  white-space: normal;
}
.title:hover {
  text-decoration: underline;
}
.foot {
  display: flex;
  justify-content: space-between;
  align-items: end;
  min-height: 18px;
  margin-top: 4px;
  gap: 8px;
}
.code {
  font-size: 12px;
  color: var(--soft);
  margin-left: auto;
  float: right;
}
.pad {
  padding: 12px 14px;
}
li p {
  display: flow-root;
}
</style>
