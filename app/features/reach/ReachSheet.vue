<script setup lang="ts">
import { mdiMagnify } from '@mdi/js'
import type { FailureScenario } from '#core/queries'
import { proofOfCell } from '#core/prove'
import { groupEqualRows, type MatrixCell } from '#core/reachability'
import CellWalk from './CellWalk.vue'
import {
  cellsShown,
  firstWrong,
  groupsNamed,
  groupsShown,
  useComparison,
  useFamily,
  type Shown,
} from './grid-view'
import ReachGrid from './ReachGrid.vue'
import { nothingShownWords } from './words'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import FlowChanges from '~/ui/FlowChanges.vue'
import StatusFlag from '~/ui/StatusFlag.vue'
import { namesIn, scenarioWords } from '~/wording/names'

/** What reaches what, under what is down or beside it; a cell opens into the way a packet takes. */
const plan = usePlan()
const analysis = useAnalysis()
const site = useSite()
const { place } = usePointer()
const names = computed(() => plan.draft && namesIn(plan.draft))
const wordsFor = (scenario: FailureScenario) => names.value && scenarioWords(scenario, names.value)

const { hasIpv6, ipv6, grid } = useFamily()
const { other, others, scenario, otherGrid, flows } = useComparison(
  () => grid.value,
  () => ipv6.value,
)

// What is shown of the grid.
const show = ref<Shown>('all')
watch(scenario, (now, was) => {
  if (now && !was) show.value = 'changed'
  if (!now && show.value === 'changed') show.value = 'all'
})
const service = ref('')
const sought = ref<string | null>('')
const words = computed(() => (sought.value ?? '').trim().toLowerCase())
/** Rows above which those that are alike stand as one, until somebody says otherwise. */
const MANY = 16
const byHand = ref<boolean | null>(null)
const alike = computed({
  get: () => byHand.value ?? (grid.value?.keys.length ?? 0) > MANY,
  set: (on) => (byHand.value = on),
})
const at = computed(
  () => grid.value && plan.draft && cellsShown(grid.value, plan.draft, service.value, ipv6.value),
)
const beside = computed(
  () => otherGrid.value && plan.draft && cellsShown(otherGrid.value, plan.draft, service.value, ipv6.value),
)
/** Tests are made by IPv4; of IPv6 nothing was observed. */
const proofOf = (cell: MatrixCell) =>
  ipv6.value ? ('open' as const) : proofOfCell(site.proof?.tests ?? [], site.passed, cell.from, cell.to)
const groups = computed(() => (grid.value ? groupEqualRows(grid.value, alike.value, proofOf) : []))
const changed = computed(() => new Set(flows.value?.map(({ from, to }) => `${from}>${to}`)))
const shown = computed(() =>
  at.value
    ? groupsNamed(
        groupsShown(groups.value, at.value, show.value, changed.value),
        words.value,
        (key) => names.value?.key(key) ?? '',
      )
    : { rows: [], columns: [] },
)
const empty = computed(() => shown.value.rows.length === 0 || shown.value.columns.length === 0)

const chosen = ref('')
const cell = computed(() => {
  const [from = '', to = ''] = chosen.value.split('>')
  return at.value?.(from, to)
})
const open = ({ from, to }: Pick<MatrixCell, 'from' | 'to'>) => (chosen.value = `${from}>${to}`)
/** Opens what tells most first: a cell against the intent. */
watch(
  grid,
  (now) => {
    const wrong = chosen.value === '' && now && firstWrong(now)
    if (wrong) open(wrong)
  },
  { immediate: true },
)
/** A finding leads to its cell, one about IPv6 to the grid of IPv6; an intent to the cell of its example. */
watch(
  place,
  ([kind, from = '', to = '', family]) => {
    if (kind === 'cells') {
      open({ from, to })
      ipv6.value = family === 'six'
    }
    if (kind !== 'intents') return
    const example = grid.value?.verdicts.find(({ intentId }) => intentId === from)?.example
    const met =
      example &&
      grid.value?.cells.find((c) => c.example?.from === example.from && c.example.to === example.to)
    if (met) open(met)
  },
  { immediate: true },
)
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Reach grid</h1>
      <p class="legend">
        Computed with {{ wordsFor(analysis.scenario) }}.
        <template v-if="beside && scenario"
          >Beside it {{ wordsFor(scenario) }}, which <StatusFlag state="outline" /> opens
          <StatusFlag state="cut" /> closes</template
        ><template v-else
          ><StatusFlag state="full" /> proven <StatusFlag state="outline" /> predicted
          <StatusFlag state="cut" /> against the intent <span class="mono">·</span> nothing{{
            ipv6 ? '; what IPv4 alone carries is not asked of IPv6' : ', as intended'
          }}</template
        >
      </p>
    </header>
    <p v-if="!grid || !at" class="soft">Computing</p>
    <template v-else>
      <div class="sieve small">
        <VSelect
          v-if="hasIpv6"
          v-model="ipv6"
          label="Family"
          :items="[
            { value: false, title: 'IPv4' },
            { value: true, title: 'IPv6' },
          ]"
        />
        <VSelect
          v-model="show"
          label="Show"
          :items="[
            { value: 'all', title: 'all' },
            { value: 'wrong', title: 'against the intent' },
            ...(scenario ? [{ value: 'changed', title: 'what changed' }] : []),
          ]"
        />
        <VSelect
          label="Service"
          v-model="service"
          :items="[
            { value: '', title: 'all' },
            ...plan.draft.services.map((s) => ({ value: s.id, title: s.name })),
          ]"
        />
        <VSelect label="Beside" v-model="other" :items="others" />
        <VTextField
          v-model="sought"
          class="sought"
          type="search"
          label="Rows or columns named"
          :append-inner-icon="mdiMagnify"
          clearable
        />
        <VSwitch v-model="alike" label="Alike as one" />
      </div>
      <ReachGrid
        v-if="!empty"
        :plan="plan.draft"
        :rows="shown.rows"
        :columns="shown.columns"
        :at="at"
        :other="beside"
        :tests="ipv6 ? [] : (site.proof?.tests ?? [])"
        :passed="site.passed"
        :chosen="chosen"
        @open="open"
      />
      <p v-else class="soft">{{ nothingShownWords(show, words, plan.draft.intents.length) }}</p>
      <FlowChanges
        v-if="flows && scenario"
        class="flows"
        :flows="flows"
        :plan="plan.draft"
        :none="`No flow differs with ${wordsFor(scenario)}.`"
        :some="`What changes with ${wordsFor(scenario)}:`"
      />
      <CellWalk v-if="cell" :cell="cell" :ipv6="ipv6" :plan="plan.draft" :proof="proofOf(cell)" />
      <p v-else class="soft open">Open a cell to walk the path.</p>
    </template>
  </section>
</template>

<style scoped>
.sieve > .v-input.v-select {
  flex: 1 1 110px;
  width: auto;
  min-width: 100px;
}
.sieve > .v-input.sought {
  flex: 1 1 150px;
  width: auto;
}
.legend :deep(svg) {
  margin: 0 2px 0 8px;
}
.open {
  margin-top: 14px;
}
.sieve {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 7px;
  align-items: center;
  margin-bottom: 8px;
}
.flows {
  margin-top: 10px;
}
</style>
