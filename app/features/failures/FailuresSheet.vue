<script setup lang="ts">
import { AT, DARK } from '#core/queries'
import { formatServices } from '#core/filter'
import { jointOnlyImpact, pairsOf, singleFailures, type IntentLoss } from '#core/reachability'
import SavedRuns from './SavedRuns.vue'
import TabBar from '~/ui/TabBar.vue'
import StatusFlag from '~/ui/StatusFlag.vue'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { count } from '~/wording/findings'
import { namesIn } from '~/wording/reach'

/**
 * Every single failure, tried, and chosen pairs: what breaks and for whom, and which intents hang on one
 * thing alone.
 */
const plan = usePlan()
const analysis = useAnalysis()
const names = computed(() => plan.draft && namesIn(plan.draft))
const onlyBad = ref(true)
const part = ref<'singles' | 'pairs' | 'kept'>('singles')

const all = computed(() => (plan.draft ? singleFailures(plan.draft) : []))
/** What the pairs are made of: the lines and the far ends, until somebody chooses otherwise. */
const byHand = shallowRef<readonly string[] | null>(null)
const usual = computed(() =>
  all.value.filter((id) => kindOf(id) === 'line' || kindOf(id) === 'tunnel' || kindOf(id) === 'switch'),
)
const paired = computed(() => (byHand.value ?? usual.value).filter((id) => all.value.includes(id)))
const pairs = computed(() =>
  pairsOf(paired.value.filter((id) => !id.startsWith(DARK) || !paired.value.includes(id.slice(DARK.length)))),
)
function toggle(id: string): void {
  byHand.value = paired.value.includes(id) ? paired.value.filter((x) => x !== id) : [...paired.value, id]
}

/** What each weather takes, by its things joined with a bar. */
const done = shallowRef<ReadonlyMap<string, readonly IntentLoss[]>>(new Map())
const keyOf = (things: readonly string[]) => things.join('|')
const wanted = computed((): (readonly string[])[] => [
  ...all.value.map((id) => [id]),
  ...(part.value === 'pairs' ? pairs.value : []),
])
const running = ref(false)
let round = 0

async function tryAll(fresh: boolean): Promise<void> {
  const mine = ++round
  const found = new Map(fresh ? [] : done.value)
  done.value = found
  running.value = true
  for (const things of wanted.value) {
    if (found.has(keyOf(things))) continue
    const lost = await analysis.storm(things)
    if (mine !== round) return
    if (lost) found.set(keyOf(things), lost)
    done.value = new Map(found)
  }
  running.value = false
}
function stop(): void {
  round++
  running.value = false
}
// The grid's worker holds a new plan when it has answered for it: then the failures are tried anew.
watch(
  () => analysis.analysis?.grid,
  (grid) => {
    if (grid) void tryAll(true)
  },
  { immediate: true },
)
watch([part, pairs], () => void tryAll(false))
onBeforeUnmount(stop)

const intentOf = (id: string) => plan.draft?.intents.find((i) => i.id === id)
const mustSurvive = (intentId: string, failed: readonly string[]) =>
  failed.length === 1 && (intentOf(intentId)?.survives.includes(failed[0] ?? '') ?? false)
const moments = computed(() => (plan.draft?.schedules.length ?? 0) > 0)
function kindOf(id: string): string {
  if (id.startsWith(AT)) return 'time of the week'
  if (plan.draft?.uplinks.some((u) => u.id === id || DARK + u.id === id)) return 'line'
  if (plan.draft?.tunnels.some((t) => t.peers.some((p) => p.id === id))) return 'tunnel'
  return plan.draft?.devices.find((d) => d.id === id)?.kind ?? 'cable'
}
const nameOf = (things: readonly string[]) => things.map((id) => names.value?.thing(id) ?? id).join(' and ')
const lostBy = (things: readonly string[]): readonly IntentLoss[] | undefined => {
  const lost = done.value.get(keyOf(things))
  return lost && things.length === 2
    ? jointOnlyImpact(lost, ...things.map((id) => done.value.get(id) ?? []))
    : lost
}
const rows = computed(() =>
  (part.value === 'singles' ? all.value.map((id) => [id]) : pairs.value)
    .flatMap((failed) => {
      const lost = lostBy(failed)
      return lost === undefined || (onlyBad.value && lost.length === 0) ? [] : [{ failed, lost }]
    })
    .sort((a, b) => b.lost.length - a.lost.length),
)
const tried = computed(() =>
  wanted.value.filter(
    (things) => done.value.has(keyOf(things)) && things.length === (part.value === 'singles' ? 1 : 2),
  ),
)
const total = computed(() => (part.value === 'singles' ? all.value : pairs.value).length)
const broken = computed(() => tried.value.filter((things) => (lostBy(things)?.length ?? 0) > 0).length)
const points = computed(() =>
  (plan.draft?.intents ?? []).map((intent) => ({
    intent,
    on: all.value.filter((failed) => done.value.get(failed)?.some((l) => l.intentId === intent.id)),
  })),
)
const whole = computed(() => tried.value.length === total.value)
const parts = computed(() => [
  { key: 'singles', name: 'Single failures', tally: String(all.value.length) },
  { key: 'pairs', name: 'Chosen pairs', tally: String(pairs.value.length) },
  { key: 'kept', name: 'Kept runs' },
])

async function look(failed: readonly string[]): Promise<void> {
  analysis.weather = failed
  await navigateTo(`/sites/${plan.slug}/reach`)
}
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Weather table</h1>
      <span v-if="part !== 'kept'" class="tools">
        <label class="small tick"
          ><input v-model="onlyBad" type="checkbox" /> only what breaks something</label
        >
        <button v-if="running" type="button" class="press" @click="stop">Stop</button>
        <button v-else type="button" class="press" @click="tryAll(true)">Try again</button>
      </span>
      <p v-if="part === 'kept'">What the server has tried and keeps, for whoever asks next.</p>
      <p v-else aria-live="polite">
        <template v-if="part === 'singles'"
          >{{ tried.length }} of {{ total }} single failures tried; {{ broken }} break an intent.</template
        ><template v-else
          >{{ tried.length }} of {{ total }} pairs tried. Those that take more than their two things do alone:
          {{ broken }}.</template
        >
        Choose one to see the grid under it.
      </p>
    </header>
    <TabBar v-model="part" :parts="parts" label="Weathers" />
    <SavedRuns v-if="part === 'kept'" :pairs="paired" />
    <template v-else>
      <details v-if="part === 'pairs'" class="choose small">
        <summary>Pairs of {{ count(paired.length, 'thing') }}: choose which</summary>
        <div>
          <label v-for="id in all" :key="id"
            ><input type="checkbox" :checked="paired.includes(id)" @change="toggle(id)" />
            {{ names?.thing(id) }}</label
          >
        </div>
      </details>
      <progress v-if="running" :value="tried.length" :max="total" aria-label="Failures tried" />
      <table class="ruled">
        <thead>
          <tr>
            <th>{{ moments ? 'Without, or at' : 'Without' }}</th>
            <th>What it is</th>
            <th class="num">Intents lost</th>
            <th>{{ part === 'pairs' ? 'What only the two together take' : 'What no longer works' }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="keyOf(row.failed)">
            <td>
              <button type="button" class="plain link" @click="look(row.failed)">
                <b>{{ nameOf(row.failed) }}</b>
              </button>
            </td>
            <td>{{ row.failed.map(kindOf).join(', ') }}</td>
            <td class="num mono">{{ row.lost.length }}</td>
            <td class="small">
              <span v-if="row.lost.length === 0" class="soft">nothing</span>
              <span v-for="(l, i) in row.lost" :key="l.intentId" :title="formatServices(l.services)"
                ><template v-if="mustSurvive(l.intentId, row.failed)"
                  ><StatusFlag state="cut" says="must survive this" />
                  <b>{{ intentOf(l.intentId)?.note }}</b></template
                ><template v-else>{{ intentOf(l.intentId)?.note }}</template
                >{{ i < row.lost.length - 1 ? '; ' : '' }}</span
              >
            </td>
          </tr>
          <tr v-if="rows.length === 0">
            <td colspan="4" class="soft">
              {{
                !whole
                  ? 'Trying'
                  : part === 'singles'
                    ? 'No single failure breaks an intent.'
                    : pairs.length === 0
                      ? 'Choose two things or more.'
                      : 'No pair breaks more than its two things do alone.'
              }}
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-if="part === 'singles'">
      <h2 class="points">What each intent hangs on</h2>
      <table class="ruled">
        <thead>
          <tr>
            <th>Intent</th>
            <th class="num">Single points of failure</th>
            <th>Which</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in points" :key="p.intent.id">
            <td>
              <b>{{ p.intent.note }}</b>
            </td>
            <td class="num mono">{{ p.on.length }}</td>
            <td class="small">
              {{
                p.on
                  .slice(0, 6)
                  .map((id) => names?.thing(id))
                  .join('; ')
              }}{{ p.on.length > 6 ? ` and ${count(p.on.length - 6, 'more thing')}` : '' }}
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.tick {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  margin-right: 8px;
}
.link:hover b {
  text-decoration: underline;
}
.points {
  margin: 16px 0 6px;
}
.ruled td:first-child {
  min-width: 130px;
}
.ruled td {
  white-space: normal;
  vertical-align: top;
  padding-top: 4px;
  padding-bottom: 4px;
}
.choose {
  margin-bottom: 8px;
}
.choose div {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 2px 10px;
  padding: 6px 0;
  max-height: 220px;
  overflow: auto;
}
progress {
  width: 100%;
  height: 8px;
  accent-color: var(--deep);
  margin-bottom: 8px;
}
</style>
