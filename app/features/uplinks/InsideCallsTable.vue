<script setup lang="ts">
import { formatServices, isNothing } from '#core/filter'
import type { InsideCalls } from '#core/reachability'
import { groupBy } from '#core/util'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { stopWords } from '~/wording/stops'

/** Who inside gets through by the outside address, forward by forward. */
const plan = usePlan()
const analysis = useAnalysis()
const calls = shallowRef<readonly InsideCalls[]>([])
watch(
  () => analysis.analysis?.grid,
  async () => {
    calls.value = await analysis.calls()
  },
  { immediate: true },
)
const callRows = computed(() =>
  (plan.draft?.forwards ?? []).map((forward) => ({
    forward,
    ...callWords(calls.value.filter((c) => c.forwardId === forward.id)),
  })),
)
/** Networks by what they get through to, and the others by what stops them. */
function callWords(list: readonly InsideCalls[]) {
  const names = (some: readonly InsideCalls[]) =>
    some.map((c) => plan.draft?.networks.find((n) => n.id === c.networkId)?.name ?? c.networkId).join(', ')
  const through = list.filter((c) => !isNothing(c.allPairs) || !isNothing(c.somePairs))
  const said = ({ allPairs, somePairs }: InsideCalls) =>
    [
      isNothing(allPairs) ? '' : formatServices(allPairs),
      isNothing(somePairs) ? '' : `some hosts ${formatServices(somePairs)}`,
    ]
      .filter((t) => t !== '')
      .join('; ')
  return {
    through: [...groupBy(through, said)].map(([words, some]) => ({ names: names(some), words })),
    stopped: [
      ...groupBy(
        list.filter((c) => !through.includes(c)),
        (c) => stopWords(c.stop ?? ''),
      ),
    ].map(([words, some]) => ({ names: names(some), words })),
  }
}
</script>

<template>
  <VTable v-if="calls.length > 0" class="ruled who">
    <thead>
      <tr>
        <th>Called from inside, by its outside address</th>
        <th>Who gets through</th>
        <th>Who does not, and why</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in callRows" :key="r.forward.id">
        <td>
          <b>{{ r.forward.note || `${r.forward.proto} ${r.forward.from}` }}</b>
        </td>
        <td>
          <template v-for="(w, i) in r.through" :key="w.words"
            ><template v-if="i > 0">; </template>{{ w.names }}:
            <span class="mono">{{ w.words }}</span></template
          ><span v-if="r.through.length === 0" class="soft">nobody</span>
        </td>
        <td class="soft">
          <template v-for="(w, i) in r.stopped" :key="w.words"
            ><template v-if="i > 0">; </template>{{ w.names }}: {{ w.words }}</template
          >
        </td>
      </tr>
    </tbody>
  </VTable>
</template>

<style scoped>
.who {
  margin-top: 8px;
}
.who td {
  white-space: normal;
}
</style>
