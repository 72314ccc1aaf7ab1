<script setup lang="ts">
import { mdiMagnify } from '@mdi/js'
import { conditionText, type FailureScenario } from '#core/queries'
import { isNothing, servicesOf } from '#core/filter'
import { proofOfCell } from '#core/prove'
import {
  asSecondFamily,
  groupEqualRows,
  cellsOf,
  flowsChanged,
  keptGroups,
  restrictTo,
  singleFailures,
  speaksIpv6,
  type RowGroup,
  type MatrixCell,
  type CellAt,
  type ReachabilityMatrix,
} from '#core/reachability'
import CellWalk from './CellWalk.vue'
import FlowChanges from '~/ui/FlowChanges.vue'
import StatusFlag from '~/ui/StatusFlag.vue'
import ReachGrid from './ReachGrid.vue'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { conditionWords, namesIn, scenarioWords } from '~/wording/reach'

const plan = usePlan()
const analysis = useAnalysis()
const site = useSite()
const { place } = usePointer()
const chosen = ref('')

// Of IPv6 there is a grid of its own, asked for when it is looked at.
const ipv6 = ref(false)
const hasIpv6 = computed(() => plan.draft?.networks.some(speaksIpv6) ?? false)
const ipv6Grid = shallowRef<ReachabilityMatrix | null>(null)
let askedIpv6 = 0
watch([() => ipv6.value && hasIpv6.value, () => analysis.analysis?.grid], async ([on]) => {
  const mine = ++askedIpv6
  const found = on ? await analysis.gridUnder(analysis.scenario, true) : null
  if (mine === askedIpv6) ipv6Grid.value = found
})
const grid = computed(() => (ipv6.value && hasIpv6.value ? ipv6Grid.value : analysis.analysis?.grid))
const names = computed(() => plan.draft && namesIn(plan.draft))
const wordsFor = (scenario: FailureScenario) => names.value && scenarioWords(scenario, names.value)

// What is shown of the grid.
const show = ref<'all' | 'wrong' | 'changed'>('all')
const service = ref('')
const sought = ref('')
const byHand = ref<boolean | null>(null)
const MANY = 16
const alike = computed({
  get: () => byHand.value ?? (grid.value?.keys.length ?? 0) > MANY,
  set: (on) => (byHand.value = on),
})
const only = computed(() => {
  const one = plan.draft?.services.find((s) => s.id === service.value)
  return one ? servicesOf([one.id], new Map([[one.id, one]])) : null
})
const cutTo = (at: CellAt): CellAt => {
  const set = only.value
  if (!set) return at
  return (from, to) => {
    const cell = at(from, to)
    return cell && restrictTo(cell, set)
  }
}
const family = (at: CellAt): CellAt =>
  !ipv6.value
    ? at
    : (from, to) => {
        const cell = at(from, to)
        return cell && asSecondFamily(cell)
      }
const at = computed(() => grid.value && cutTo(family(cellsOf(grid.value))))
/** Tests are made by IPv4; of IPv6 nothing was observed. */
const proofOf = (cell: MatrixCell) =>
  ipv6.value ? ('open' as const) : proofOfCell(site.proof?.tests ?? [], site.passed, cell.from, cell.to)
const bands = computed(() => (grid.value ? groupEqualRows(grid.value, alike.value, proofOf) : []))

// The other scenario to compare with.
const other = ref('')
const others = computed(() =>
  (plan.draft ? singleFailures(plan.draft) : []).map((condition) => ({
    id: conditionText(condition),
    condition,
    name: names.value && conditionWords(condition, names.value),
  })),
)
const otherScenario = computed((): FailureScenario | null => {
  if (other.value === '') return null
  if (other.value === 'well') return []
  return others.value.filter((o) => o.id === other.value).map((o) => o.condition)
})
const otherGrid = shallowRef<ReachabilityMatrix | null>(null)
let asked = 0
watch([otherScenario, grid], async ([scenario]) => {
  const mine = ++asked
  const found = scenario && (await analysis.gridUnder(scenario, ipv6.value))
  if (mine === asked) otherGrid.value = found
})
watch(otherScenario, (now, was) => {
  if (now && !was) show.value = 'changed'
  if (!now && show.value === 'changed') show.value = 'all'
})
const beside = computed(() =>
  otherScenario.value && otherGrid.value ? cutTo(family(cellsOf(otherGrid.value))) : null,
)
const flows = computed(() =>
  grid.value && otherScenario.value && otherGrid.value ? flowsChanged(grid.value, otherGrid.value) : null,
)
const changed = computed(() => new Set(flows.value?.map((f) => `${f.from}>${f.to}`)))

const isWrong = (cell: MatrixCell) => cell.judged && (!isNothing(cell.missing) || !isNothing(cell.unexpected))
const shown = computed(() => {
  if (!at.value) return { rows: [], columns: [] }
  const kept =
    show.value === 'all'
      ? { rows: bands.value, columns: bands.value }
      : keptGroups(bands.value, at.value, (cell) =>
          show.value === 'wrong' ? isWrong(cell) : changed.value.has(`${cell.from}>${cell.to}`),
        )
  const words = sought.value.trim().toLowerCase()
  if (words === '') return kept
  const named = (band: RowGroup) =>
    band.keys.some((key) => names.value?.key(key).toLowerCase().includes(words))
  return kept.rows.some(named)
    ? { rows: kept.rows.filter(named), columns: kept.columns }
    : { rows: kept.rows, columns: kept.columns.filter(named) }
})
const empty = computed(() => shown.value.rows.length === 0 || shown.value.columns.length === 0)
const cell = computed(() => {
  const [from = '', to = ''] = chosen.value.split('>')
  return at.value?.(from, to)
})

/** Opens what tells most first: a cell against the intent. */
watch(
  grid,
  (now) => {
    if (chosen.value !== '' || !now) return
    const wrong = now.cells.find(isWrong)
    if (wrong) chosen.value = `${wrong.from}>${wrong.to}`
  },
  { immediate: true },
)
watch(
  place,
  (path) => {
    if (path[0] === 'cells') chosen.value = `${path[1]}>${path[2]}`
    // A finding about IPv6 leads to the grid of IPv6.
    if (path[0] === 'cells') ipv6.value = path[3] === 'six'
    if (path[0] !== 'intents') return
    const example = grid.value?.verdicts.find((v) => v.intentId === path[1])?.example
    const met =
      example &&
      grid.value?.cells.find((c) => c.example?.from === example.from && c.example.to === example.to)
    if (met) chosen.value = `${met.from}>${met.to}`
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
        <template v-if="beside && otherScenario"
          >Beside it {{ wordsFor(otherScenario) }}, which <StatusFlag state="outline" /> opens
          <StatusFlag state="cut" /> closes</template
        ><template v-else
          ><StatusFlag state="full" /> proven <StatusFlag state="outline" /> predicted
          <StatusFlag state="cut" /> against the intent <span class="mono">·</span> nothing{{
            ipv6 && hasIpv6 ? '; what IPv4 alone carries is not asked of IPv6' : ', as intended'
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
            ...(otherScenario ? [{ value: 'changed', title: 'what changed' }] : []),
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
        <VSelect
          label="Beside"
          v-model="other"
          :items="[
            { value: '', title: 'nothing' },
            { value: 'well', title: 'everything well' },
            ...others.map((o) => ({ value: o.id, title: o.name })),
          ]"
        />
        <VTextField
          v-model="sought"
          class="sought"
          type="search"
          label="Rows or columns named"
          :append-inner-icon="mdiMagnify"
          clearable
        />
        <VCheckbox v-model="alike" label="alike as one" />
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
        @open="(c) => (chosen = `${c.from}>${c.to}`)"
      />
      <p v-else class="soft">
        {{
          sought !== ''
            ? 'Nothing of that name.'
            : show === 'wrong'
              ? 'Nothing is against the intent.'
              : 'Nothing changed between the two.'
        }}
      </p>
      <FlowChanges
        v-if="flows && otherScenario"
        class="flows"
        :flows="flows"
        :plan="plan.draft"
        :none="`No flow differs with ${wordsFor(otherScenario)}.`"
        :some="`What changes with ${wordsFor(otherScenario)}:`"
      />
      <CellWalk v-if="cell" :cell="cell" :ipv6="ipv6 && hasIpv6" :plan="plan.draft" :proof="proofOf(cell)" />
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
