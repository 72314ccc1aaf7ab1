<script setup lang="ts">
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import type { CellProof } from '#core/prove'
import { capacityOf, type MatrixCell } from '#core/reachability'
import { useCellWalk } from './cell-walk'
import RemedyList from './RemedyList.vue'
import { useChosen } from '~/ui/selection'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { servicesText } from '~/wording/cells'
import { reasonOf } from '~/wording/problems'
import { namesIn, partyWords } from '~/wording/names'
import { capacityWords, flowWords, walkWords } from '~/wording/walk'

/** One cell opened: what is meant, what passes, and one flow walked hop by hop. */
const props = defineProps<{ cell: MatrixCell; plan: Plan; proof: CellProof; ipv6: boolean }>()
const OBSERVED: Readonly<Record<CellProof, string>> = {
  proven: 'as intended: all its tests passed',
  contradicted: 'a test failed',
  open: 'not all its tests were tried',
}
const analysis = useAnalysis()
const chosen = useChosen()
const store = usePlan()
const names = computed(() => namesIn(props.plan))

const { choice, choices, flow, text, read, typed, missed, walk, state } = useCellWalk(props)

const party = (id: string) => partyWords(id, names.value)
async function onLoom(): Promise<void> {
  chosen.walk = walk.value?.flow ?? flow.value
  chosen.vlan = 0
  await navigateTo(`/sites/${store.slug}/loom`)
}
const lines = computed(() => (walk.value?.lines ?? []).map((line) => walkWords(line, names.value)))
const meant = computed(() =>
  props.cell.judged ? servicesText(props.cell.intended, props.plan.services) : 'not asked',
)
/** How much is to be moved; an emptied field means 1. */
const gb = ref<number | string>(1)
const capacity = computed(() =>
  walk.value?.passes
    ? capacityWords(
        capacityOf(indexPlan(props.plan), walk.value, analysis.scenario),
        names.value,
        Math.max(1, Number(gb.value) || 1),
      )
    : '',
)
const passes = computed(() => servicesText(props.cell.allPairs, props.plan.services))
const some = computed(() => servicesText(props.cell.somePairs, props.plan.services))
</script>

<template>
  <section aria-label="Walk" class="walk">
    <div class="top">
      <h2>
        {{
          typed && walk
            ? `${party(walk.flow.from)} to ${party(walk.flow.to)}`
            : `${names.key(cell.from)} to ${names.key(cell.to)}`
        }}
      </h2>
      <div v-if="cell.example" class="choices">
        <VSelect
          v-model="choice"
          label="Walk"
          :items="[
            { value: '', title: `${cell.example ? flowWords(cell.example) : ''} (tells most)` },
            ...choices.map((c) => ({ value: c.key, title: c.name })),
          ]"
        />
        <VTextField
          :model-value="text"
          class="mono any"
          label="Any flow"
          placeholder="10.61.1.4 to 10.61.2.10 tcp 22"
          spellcheck="false"
          @change="text = ($event.target as HTMLInputElement).value"
        />
      </div>
    </div>
    <NuxtLink
      v-if="cell.judged && !ipv6 && !typed"
      class="small"
      :to="`/sites/${store.slug}/diagnose?cell=${encodeURIComponent(`${cell.from}>${cell.to}`)}`"
      >Seen otherwise on site? Find out why</NuxtLink
    >
    <dl v-if="!typed" class="small">
      <div>
        <dt>Intended</dt>
        <dd>{{ meant }}</dd>
      </div>
      <div>
        <dt>Predicted</dt>
        <dd>
          {{ passes }}<template v-if="some !== 'nothing'">; between some also {{ some }}</template>
        </dd>
      </div>
      <div v-if="cell.judged && !ipv6">
        <dt>Observed</dt>
        <dd :class="{ bad: proof === 'contradicted' }">{{ OBSERVED[proof] }}</dd>
      </div>
    </dl>
    <RemedyList v-for="intent in ipv6 || typed ? [] : missed" :key="intent.id" :intent="intent" />
    <p v-if="read && !read.ok" class="small wrong-words" role="alert">
      {{ read.problems.map(reasonOf).join('; ') }}
    </p>
    <p v-if="!flow" class="soft">Nobody is there to walk from or to.</p>
    <p v-else-if="state === 'asking'" class="soft">Walking</p>
    <p v-else-if="!walk" class="soft">
      {{
        typed
          ? 'Nobody has one of these addresses in this weather.'
          : 'One of the two is not there in this weather.'
      }}
    </p>
    <template v-else>
      <p class="small">
        <b>{{ party(walk.flow.from) }}</b> <span class="mono">{{ walk.fromText }}</span> to
        <b>{{ party(walk.flow.to) }}</b> <span class="mono">{{ walk.toText }}</span>,
        {{ flowWords(walk.flow) }}:
        <b :class="{ bad: !walk.passes }">{{ walk.passes ? 'passes' : 'does not pass' }}</b>
        <VBtn v-if="!ipv6" class="onloom" @click="onLoom"> Show the way on the Loom </VBtn>
      </p>
      <p v-if="capacity" class="small">
        <span class="soft">Carries</span> {{ capacity }}
        <VTextField
          v-model.number="gb"
          class="mono gb"
          type="number"
          min="1"
          max="1000000"
          label="GB to move"
        />
      </p>
      <ol>
        <li v-for="(line, i) in lines" :key="i" :class="{ bad: line.bad }">
          <span class="n mono">{{ i + 1 }}</span><b>{{ line.where }}</b
          ><span class="mid">{{ line.what }}</span
          ><span class="out">{{ line.outcome }}</span>
        </li>
      </ol>
    </template>
  </section>
</template>

<style scoped>
.walk {
  margin-top: 14px;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
}
.top label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.top select {
  width: auto;
  max-width: 190px;
  padding: 2px 6px;
}
.any {
  width: 290px;
  padding: 2px 6px;
}
.gb {
  width: 76px;
  display: inline-block;
  padding: 0 6px;
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 24px;
  margin: 2px 0 6px;
}
dl div {
  display: flex;
  gap: 6px;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
ol {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  border-top: 1px solid var(--hair);
}
li {
  display: grid;
  grid-template-columns: 26px minmax(180px, 1.3fr) minmax(120px, 1fr) auto;
  gap: 8px;
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
  align-items: baseline;
}
.out {
  text-align: right;
}
.onloom {
  margin-left: 10px;
}
.bad,
li.bad .out,
li.bad b {
  color: var(--brick);
  font-weight: 700;
}
@media (max-width: 599px) {
  .top,
  .top label {
    flex-wrap: wrap;
  }
  .any {
    width: 100%;
  }
  li {
    grid-template-columns: 22px 1fr;
  }
  .mid,
  .out {
    grid-column: 2;
    text-align: left;
  }
}
</style>
