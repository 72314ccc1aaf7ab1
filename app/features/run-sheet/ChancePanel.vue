<script setup lang="ts">
import { useTheme } from 'vuetify'
import type { Crew, Timetable } from '#core/schedule'
import type { SpreadTold } from '#contracts/worker'
import { timeText } from './times'
import { crewWords } from './words'
import { titlesOf } from '~/wording/activities'
import { usePlan } from '~/stores/plan'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import { CHART, chartAxis, chartMark, ink, LineChart } from '~/ui/line-chart'
import ReadingNotice from '~/ui/ReadingNotice.vue'

/** When all is done if some things take longer: ten thousand runs, and other numbers of people. */
const { timetable, spread, crews } = defineProps<{
  timetable: Timetable
  spread: SpreadTold | null
  crews: readonly Crew[]
}>()
const plan = usePlan()
const theme = useTheme()
const start = computed(() => plan.draft?.work.startDate ?? null)
const titles = computed(() => (plan.draft ? titlesOf(plan.draft) : () => ''))
const percent = (share: number): string => `${Math.round(share * 100)} %`
const at = (share: number): number => spread?.doneBy[Math.round(share * (spread.doneBy.length - 1))] ?? 0
const planned = computed(() => crews.find(({ people }) => people === crews.length - 1))

const isPartial = computed(() => timetable.rows.some(({ unplaced }) => unplaced !== null))
const SHARES = [0.1, 0.5, 0.8, 0.9, 0.98]
const ends = computed(() =>
  SHARES.map((share) => ({ id: percent(share), by: timeText(start.value, at(share)) })),
)
const endColumns: readonly Column<{ readonly id: string; readonly by: string }>[] = [
  { key: 'share', head: 'Of the runs', num: true, width: '110px', get: ({ id }) => id },
  { key: 'by', head: 'Done by', mono: true, get: ({ by }) => by },
]
const held = computed(() =>
  timetable.rows
    .map((row) => ({ id: row.id, title: titles.value(row), share: spread?.criticality[row.id] ?? 0 }))
    .filter(({ share }) => share > 0)
    .sort((one, other) => other.share - one.share)
    .slice(0, 12),
)
const heldColumns: readonly Column<(typeof held.value)[number]>[] = [
  { key: 'what', head: 'Holds up the end', strong: true, get: ({ title }) => title },
  { key: 'share', head: 'In so many runs', num: true, width: '130px', get: ({ share }) => percent(share) },
]
const says = computed(() =>
  spread
    ? `Half of the runs are done by ${timeText(start.value, at(0.5))}, ` +
      `nine of ten by ${timeText(start.value, at(0.9))}.`
    : '',
)

const picture = computed(() => {
  void theme.name.value
  const points = (spread?.doneBy ?? []).map((minutes, i, all) => ({
    x: minutes,
    y: (100 * i) / (all.length - 1),
  }))
  const planned = [
    { x: timetable.endMin, y: 0 },
    { x: timetable.endMin, y: 100 },
  ]
  // The last of a hundred runs would make the picture one of them alone.
  const across = chartAxis(
    'all is done',
    Math.min(at(0), timetable.endMin),
    Math.max(at(0.98), timetable.endMin),
  )
  const callback = (value: number | string) => timeText(start.value, Number(value))
  return {
    data: {
      datasets: [
        { data: points, borderColor: ink('--deep'), borderWidth: 2.5, pointRadius: 0 },
        chartMark('run sheet', planned, '--magenta'),
      ],
    },
    options: {
      ...CHART,
      scales: {
        x: { ...across, ticks: { ...across.ticks, maxTicksLimit: 6, includeBounds: false, callback } },
        y: chartAxis('% of the runs', 0, 100),
      },
      plugins: { legend: { display: false } },
    },
  }
})
</script>

<template>
  <ReadingNotice v-if="!spread" words="Running it ten thousand times" />
  <template v-else>
    <p v-if="isPartial" class="wrong-words" role="alert">
      Steps without a time are not in these figures: nothing is done before they are.
    </p>
    <p>
      {{ says }}
      As the run sheet says, or sooner: <b>{{ percent(spread.asPlanned) }}</b>.
      <template v-if="spread.withinWindow !== null">
        Within the window of the cut-over: <b>{{ percent(spread.withinWindow) }}</b>.
      </template>
    </p>
    <figure>
      <div class="frame">
        <LineChart :data="picture.data" :options="picture.options" :aria-label="says" />
      </div>
      <figcaption class="small soft">
        Dashed: the end as the run sheet has it, with usual durations.
      </figcaption>
    </figure>
    <div class="tables">
      <DataTable label="When all is done" :columns="endColumns" :rows="ends" empty="" ordered />
      <DataTable label="What holds up the end" :columns="heldColumns" :rows="held" empty="Nothing." ordered />
    </div>
  </template>
  <h2>With fewer people, or more</h2>
  <ReadingNotice v-if="crews.length === 0" words="Trying other numbers of people" />
  <ul>
    <li v-for="crew in crews" :key="crew.people">{{ crewWords(crew, planned, start) }}</li>
  </ul>
</template>

<style scoped>
figure {
  margin: 8px 0;
}
.frame {
  height: 220px;
  max-width: 900px;
  position: relative;
}
.tables {
  display: grid;
  grid-template-columns: max-content minmax(320px, 1fr);
  gap: 16px;
}
@media (max-width: 700px) {
  .tables {
    grid-template-columns: 1fr;
  }
}
h2 {
  margin: 12px 0 6px;
}
</style>
