<script setup lang="ts">
import { DAY } from '#core/queries'
import { peopleOf, type Timetable, type TimetableRow } from '#core/schedule'
import { useBlockDrag } from './block-drag'
import { runTitle } from './calendar'
import { clockText, dayText, timeText } from './times'
import { timelineOf, WIDTH, type Block } from './timeline'
import { titlesOf } from '~/wording/activities'
import { usePlan } from '~/stores/plan'

/** The schedule as days, with a lane for each person; steps on one thing that follow each other are one block. */
const { timetable, chosen } = defineProps<{ timetable: Timetable; chosen: string }>()
const emit = defineEmits<{ choose: [id: string] }>()
const plan = usePlan()

const LANE = 24
const HEAD = 18
const people = computed(() => (plan.draft ? peopleOf(plan.draft) : []))
const picture = computed(() =>
  timelineOf(
    timetable,
    people.value.map(({ id }) => id),
  ),
)
const laneCount = computed(() => people.value.length + 1)
const stripHeight = computed(() => HEAD + laneCount.value * LANE + 16)
const start = computed(() => plan.draft?.work.startDate ?? null)
const titles = computed(() => (plan.draft ? titlesOf(plan.draft) : () => ''))
const hatch = useId()

const blockName = ({ rows }: Block) => runTitle(rows, titles.value, (id) => plan.index?.devices.get(id)?.name)
/** About so many letters fit into a width. */
const LETTER = 5.6
function shortName(block: Block): string {
  const most = Math.floor((block.width - 6) / LETTER)
  const name = blockName(block)
  if (most < 3) return ''
  return name.length <= most ? name : `${name.slice(0, most - 1)}…`
}
const spanText = (rows: readonly TimetableRow[]): string => {
  const [first, last] = [rows[0], rows.at(-1)]
  return `${timeText(start.value, first?.startMin ?? 0)} to ${clockText(last?.endMin ?? 0)}`
}
const { ghost, says, grab } = useBlockDrag(
  () => picture.value,
  () => ({ head: HEAD, lane: LANE, strip: stripHeight.value }),
  ({ waitsFor, startMin }) => {
    const cause = timetable.rows.find(({ id }) => id === waitsFor)
    const isSameDay = Math.floor((cause?.endMin ?? 0) / DAY) === Math.floor(startMin / DAY)
    return cause && isSameDay ? titles.value(cause) : ''
  },
)
const isDone = ({ rows }: Block) => rows.every(({ state }) => state === 'done' || state === 'skipped')
const isChosen = ({ rows }: Block) => rows.some(({ id }) => id === chosen)
</script>

<template>
  <div class="scroll">
    <svg
      v-for="strip in picture.strips"
      :key="strip.day"
      :viewBox="`0 0 ${WIDTH} ${stripHeight}`"
      role="group"
      :aria-label="`${dayText(start, strip.day)}: ${strip.blocks.length} blocks of work; the table has the same`"
    >
      <defs>
        <pattern :id="`${hatch}-${strip.day}`" width="6" height="6" patternUnits="userSpaceOnUse">
          <path d="M0 6 L6 0" class="hatch" />
        </pattern>
      </defs>
      <text x="0" y="12" class="day">{{ dayText(start, strip.day) }}</text>
      <rect
        v-if="strip.window"
        :x="strip.window.x"
        :y="HEAD"
        :width="strip.window.width"
        :height="laneCount * LANE"
        class="window"
      />
      <g v-for="{ x, hour } in picture.hours" :key="x" class="hours">
        <line :x1="x" :x2="x" :y1="HEAD" :y2="HEAD + laneCount * LANE" />
        <text :x="x" :y="stripHeight - 4" text-anchor="middle">{{ hour }}</text>
      </g>
      <g v-for="(lane, i) in [...people.map(({ name }) => name), 'Waits']" :key="i">
        <line x1="0" :x2="WIDTH" :y1="HEAD + i * LANE" :y2="HEAD + i * LANE" class="rule" />
        <text x="0" :y="HEAD + i * LANE + 16" class="lane">{{ lane.slice(0, 18) }}</text>
      </g>
      <line
        v-for="(journey, i) in strip.journeys"
        :key="i"
        class="journey"
        :x1="journey.x"
        :x2="journey.x + journey.width"
        :y1="HEAD + journey.lane * LANE + LANE / 2"
        :y2="HEAD + journey.lane * LANE + LANE / 2"
      />
      <g
        v-for="block in strip.blocks"
        :key="block.key"
        class="block"
        :class="{ wait: block.isWait, done: isDone(block), chosen: isChosen(block) }"
        :transform="`translate(${block.x} ${HEAD + block.lane * LANE + 2})`"
        @pointerdown="grab($event, block, strip.day, () => emit('choose', block.key))"
      >
        <title>{{ blockName(block) }}, {{ spanText(block.rows) }}{{ isDone(block) ? ', done' : '' }}</title>
        <rect
          :width="block.width"
          :height="LANE - 5"
          :fill="block.isWait ? `url(#${hatch}-${strip.day})` : undefined"
        />
        <line v-if="block.isCritical" x1="0" :x2="block.width" :y1="LANE - 5" :y2="LANE - 5" class="chain" />
        <path v-if="isDone(block)" class="tick" d="M2 8 l3 4 l6 -9" />
        <text v-else-if="!block.isWait" x="3" y="13">{{ shortName(block) }}</text>
      </g>
      <rect
        v-if="ghost?.day === strip.day"
        class="ghost"
        :x="ghost.x"
        :y="HEAD + ghost.lane * LANE + 2"
        :width="ghost.block.width"
        :height="LANE - 5"
      />
      <g v-for="gate in strip.gates" :key="gate.row.id" class="gate">
        <title>{{ titles(gate.row) }} {{ clockText(gate.row.startMin ?? 0) }}</title>
        <line :x1="gate.x" :x2="gate.x" :y1="HEAD - 4" :y2="HEAD + laneCount * LANE" />
        <text v-if="gate.row.kind === 'gate-begin'" :x="gate.x - 3" :y="HEAD - 5" text-anchor="end">
          begin?
        </text>
        <text v-else :x="gate.x + 3" :y="HEAD - 5">keep?</text>
      </g>
    </svg>
  </div>
  <p class="small says" role="status">{{ says }}</p>
  <p class="small soft">
    Numbers below are hours. Steps that belong together are one block; a heavy line below it: it holds up the
    end. Hatched: a wait. Dotted: travel.
    <template v-if="timetable.window">Shaded: the window of the cut-over.</template>
    A press on a block shows its steps in the table. Drag one to another person, later or to another day: what
    that costs is told before you let go.
  </p>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
svg {
  display: block;
  user-select: none;
  width: 100%;
  min-width: 640px;
  max-width: 1100px;
  background: var(--panel);
  border: 1px solid var(--line);
  border-bottom: 0;
}
svg:last-child {
  border-bottom: 1px solid var(--line);
}
text {
  font-size: 11px;
  fill: var(--ink);
}
.day {
  font-weight: 700;
}
.rule {
  stroke: var(--hair);
}
.lane,
.hours text {
  fill: var(--soft);
}
.hours line {
  stroke: var(--hair);
}
.window {
  fill: var(--shallow);
}
.block {
  cursor: grab;
  touch-action: none;
}
.block rect {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 0.7;
}
.block.wait rect {
  fill: revert-layer;
  stroke: var(--soft);
}
.block.done rect {
  fill: var(--shallow);
}
.tick {
  fill: none;
  stroke: var(--kelp);
  stroke-width: 2;
}
.block.chosen rect {
  stroke: var(--deep);
  stroke-width: 2.5;
}
.ghost {
  fill: var(--shallow);
  fill-opacity: 0.7;
  stroke: var(--deep);
  stroke-dasharray: 4 2;
  pointer-events: none;
}
.says {
  min-height: 20px;
  font-weight: 700;
}
.chain {
  stroke: var(--deep);
  stroke-width: 3;
}
.journey {
  stroke: var(--soft);
  stroke-width: 1.5;
  stroke-dasharray: 1.5 3;
}
.hatch {
  stroke: var(--soft);
}
.gate line {
  stroke: var(--magenta);
  stroke-width: 2;
}
.gate text {
  fill: var(--magenta);
}
</style>
