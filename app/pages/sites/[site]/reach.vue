<script setup lang="ts">
import { isNothing } from '#core/policy'
import { proofOfCell } from '#core/prove'
import CellWalk from '~/components/CellWalk.vue'
import PennantMark from '~/components/PennantMark.vue'
import ReachGrid from '~/components/ReachGrid.vue'
import { usePointer } from '~/composables/pointer'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { namesIn } from '~/wording/reach'

const plan = usePlan()
const analysis = useAnalysis()
const site = useSite()
const { place } = usePointer()
const chosen = ref('')

const grid = computed(() => analysis.analysis?.grid)
const cell = computed(() => grid.value?.cells.find((c) => `${c.from}>${c.to}` === chosen.value))
const names = computed(() => plan.draft && namesIn(plan.draft))
const sky = computed(() => (analysis.weather.length === 0 ? 'with everything well' : `with ${analysis.weather.map((id) => names.value?.thing(id) ?? id).join(' and ')} down`))

/** Opens what tells most first: a cell against the intent. */
watch(grid, (now) => {
  if (chosen.value !== '' || !now) return
  const wrong = now.cells.find((c) => c.judged && (!isNothing(c.missing) || !isNothing(c.excess)))
  if (wrong) chosen.value = `${wrong.from}>${wrong.to}`
}, { immediate: true })
watch(place, (path) => {
  if (path[0] === 'cells') chosen.value = `${path[1]}>${path[2]}`
  if (path[0] !== 'intents') return
  const example = grid.value?.verdicts.find((v) => v.intentId === path[1])?.example
  const met = example && grid.value?.cells.find((c) => c.example?.from === example.from && c.example.to === example.to)
  if (met) chosen.value = `${met.from}>${met.to}`
}, { immediate: true })
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Reach grid</h1>
      <p class="legend">Computed {{ sky }}. <PennantMark state="full" /> proven <PennantMark state="outline" /> predicted <PennantMark state="cut" /> against the intent <span class="mono">·</span> nothing, as intended</p>
    </header>
    <p v-if="!grid" class="soft">Computing</p>
    <template v-else>
      <ReachGrid :plan="plan.draft" :grid="grid" :tests="site.proof?.tests ?? []" :passed="site.passed" :chosen="chosen" @open="(c) => (chosen = `${c.from}>${c.to}`)" />
      <CellWalk v-if="cell" :cell="cell" :plan="plan.draft" :proof="proofOfCell(site.proof?.tests ?? [], site.passed, cell.from, cell.to)" />
      <p v-else class="soft open">Open a cell to walk the path.</p>
    </template>
  </section>
</template>

<style scoped>
.legend :deep(svg) { margin: 0 2px 0 8px; }
.open { margin-top: 14px; }
</style>
