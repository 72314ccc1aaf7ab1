<script setup lang="ts">
import type { AcceptanceTest } from '#core/prove'
import StatusFlag from '~/ui/StatusFlag.vue'
import RecordResult from './RecordResult.vue'
import { useProofLines } from './proof-lines'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { timeText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'
import { resultWords } from '~/wording/proof'
import ReadingNotice from '~/ui/ReadingNotice.vue'

const plan = usePlan()
const site = useSite()
const session = useSession()
const { lines, counts } = useProofLines()
const only = ref<'all' | 'open' | 'failed'>('all')
const recording = shallowRef<AcceptanceTest | null>(null)
const busy = ref(false)
const shown = computed(() =>
  lines.value.filter(
    (l) => only.value === 'all' || (only.value === 'open' ? l.result === null : l.result?.passed === false),
  ),
)

async function ask(): Promise<void> {
  busy.value = true
  await site.askLab()
  busy.value = false
}
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Acceptance tests</h1>
      <span class="tools">
        <VSelect
          label="Show"
          v-model="only"
          :items="[
            { value: 'all', title: 'all' },
            { value: 'open', title: 'not tried' },
            { value: 'failed', title: 'failed' },
          ]"
        />
        <VBtn v-if="session.works" variant="flat" :disabled="busy" @click="ask">
          {{ busy ? 'Running tests' : 'Run tests in the lab' }}
        </VBtn>
      </span>
      <p>
        Made from the plan's intent. {{ counts.proven }} of {{ counts.all }} proven,
        {{ counts.failed }} failed. The lab tries them on its own copy of the site, as it was built.
      </p>
    </header>
    <p v-for="(p, i) in recording ? [] : site.problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(p) }}
    </p>
    <ReadingNotice v-if="!site.proof" words="Reading the proof" />
    <div v-else class="table" role="table" aria-label="Acceptance tests">
      <div class="tr head" role="row">
        <span role="columnheader" /><span role="columnheader">Test</span
        ><span role="columnheader">Must be seen</span><span role="columnheader">Seen</span
        ><span role="columnheader" />
      </div>
      <div
        v-for="line in shown"
        :key="line.test.id"
        class="tr"
        :class="{ failed: line.flag === 'cut' }"
        role="row"
        :data-test="line.test.id"
      >
        <span role="cell"><StatusFlag :state="line.flag" :says="line.says" /></span>
        <span role="cell" class="title">{{ line.words.title }}</span>
        <span role="cell" class="small">{{ line.words.expect }}</span>
        <span v-if="line.result" role="cell" class="small">
          <b :class="{ bad: !line.result.passed }">{{ resultWords(line.result) }}</b><br />
          <span class="soft"
            >{{ line.result.vantage }}, {{ line.result.who }}, {{ timeText(line.result.at) }}, rev
            {{ line.result.revision }}{{ line.result.note ? `. ${line.result.note}` : '' }}</span
          >
        </span>
        <span v-else role="cell" class="small soft">not tried</span>
        <span role="cell"
          ><span v-if="line.isWaiting" class="small">recorded, not sent yet</span
          ><VBtn v-if="session.works" @click="recording = line.test">
            Record<span class="sr"> {{ line.words.title }}</span></VBtn
          ><NuxtLink v-if="line.flag === 'cut'" class="small why" :to="`/sites/${plan.slug}/diagnose`"
            >Find out why</NuxtLink
          ></span
        >
      </div>
      <p v-if="shown.length === 0" class="soft none">None of these.</p>
    </div>
    <RecordResult :test="recording" @close="recording = null" />
  </section>
</template>

<style scoped>
.tools label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.tools select {
  padding: 2px 6px;
  width: auto;
}
.table {
  border: 1px solid var(--line);
  background: var(--panel);
}
.tr {
  display: grid;
  grid-template-columns: 20px minmax(150px, 1.05fr) minmax(140px, 1.1fr) minmax(160px, 1.3fr) 70px;
  gap: 2px 10px;
  padding: 5px 10px;
  border-bottom: 1px solid var(--hair);
  align-items: start;
}
.tr:last-child {
  border-bottom: 0;
}
.tr.head {
  font-weight: 700;
  font-size: 13px;
  border-bottom-color: var(--ink);
}
.tr.failed {
  background: var(--trouble);
}
.tr b,
.title {
  overflow-wrap: anywhere;
}
.bad {
  color: var(--brick);
}
.none {
  padding: 10px;
}
.why {
  display: block;
  margin-top: 3px;
}
@media (max-width: 899px) {
  .tr {
    grid-template-columns: 24px 1fr;
    padding: 10px 12px;
  }
  .tr > :nth-child(n + 3) {
    grid-column: 2;
  }
  .tr.head {
    display: none;
  }
}
</style>
