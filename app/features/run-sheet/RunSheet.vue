<script setup lang="ts">
import { mdiCalendarExport, mdiPrinterOutline } from '@mdi/js'
import { assumptionsOf, iCalendar, isBeforeDay, projectOf } from '#core/schedule'
import { eventsOf } from './calendar'
import TimelinePicture from './TimelinePicture.vue'
import { useCurrentSchedule } from './current-schedule'
import { timeText } from './times'
import { ASSUMPTIONS, summaryWords } from './words'
import { useActions } from '~/shell/actions'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import { saveFile } from '~/ui/save-file'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { count } from '~/wording/count'

const ChancePanel = defineAsyncComponent(() => import('./ChancePanel.vue'))
const BenchPanel = defineAsyncComponent(() => import('./BenchPanel.vue'))
const CrewPanel = defineAsyncComponent(() => import('./CrewPanel.vue'))
const StepTable = defineAsyncComponent(() => import('./StepTable.vue'))

/** Who does what, when, and what holds it up. */
const plan = usePlan()
const site = useSite()
const { schedule, rested, startDate: start } = useCurrentSchedule({ withChances: true })
const shown = ref('timeline')
const chosen = ref('')

const project = computed(() => rested.value && projectOf(rested.value))
const isEmpty = computed(() => project.value?.activities.length === 0)
const assumptions = computed(() =>
  rested.value && project.value ? assumptionsOf(rested.value, project.value) : [],
)
const undone = computed(() => schedule.timetable?.rows.filter(({ unplaced }) => unplaced !== null) ?? [])
const summary = computed(() =>
  schedule.timetable ? summaryWords(schedule.timetable, undone.value.length, start.value) : '',
)
/** Records of before the first day count as its beginning: times are then wrong. */
const isEarly = computed(() => {
  const { startDate, timeZone } = plan.draft?.work ?? { startDate: null, timeZone: '' }
  const [first] = site.steps
  return startDate !== null && first !== undefined && isBeforeDay(startDate, timeZone, Date.parse(first.at))
})
const parts = computed(() => [
  { key: 'timeline', name: 'Timeline' },
  { key: 'steps', name: 'Steps', tally: String(schedule.timetable?.rows.length ?? '') },
  { key: 'bench', name: 'Bench' },
  { key: 'chances', name: 'Chances' },
  { key: 'crew', name: 'People and hours', tally: String(plan.draft?.work.people.length || '') },
])
function exportCalendar(): void {
  if (!plan.draft || !schedule.timetable || start.value === null) return
  const { work, site: facts } = plan.draft
  const frame = { slug: plan.slug, name: facts.name, startDate: start.value, timeZone: work.timeZone }
  const text = iCalendar(eventsOf(plan.draft, schedule.timetable), { ...frame, nowMs: Date.now() })
  saveFile(`${plan.slug}-run-sheet.ics`, text, 'text/calendar')
}
useActions({ 'name-people': () => (shown.value = 'crew') })
function choose(id: string): void {
  chosen.value = id
  shown.value = 'steps'
}
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Run sheet</h1>
      <span class="tools">
        <UndoRedo />
        <template v-if="schedule.timetable && !isEmpty">
          <VBtn :prepend-icon="mdiPrinterOutline" :to="`/run-sheet/${plan.slug}`">Print</VBtn>
          <VBtn
            :prepend-icon="mdiCalendarExport"
            :disabled="start === null"
            :title="start === null ? 'A calendar needs the first day: People and hours' : undefined"
            @click="exportCalendar"
            >Calendar</VBtn
          >
        </template>
      </span>
      <p v-if="!isEmpty && schedule.timetable" role="status">
        <b>{{ summary }}</b>
        <span v-if="schedule.seeking" class="soft"> Looking for a better order…</span>
      </p>
    </header>
    <p v-if="isEmpty">
      Nothing to do yet: the work follows from what is planned. Begin with a gateway, switches and access
      points on the <NuxtLink :to="`/sites/${plan.slug}/loom`">Loom</NuxtLink>.
    </p>
    <template v-else>
      <ul v-if="assumptions.length > 0" class="small assumed">
        <li v-for="assumption in assumptions" :key="assumption">{{ ASSUMPTIONS[assumption] }}</li>
      </ul>
      <p v-if="isEarly" class="small wrong-words" role="alert">
        Work has begun before the first day: set it under People and hours, so that times are right.
      </p>
      <p v-if="undone.length > 0" class="wrong-words" role="alert">
        {{ count(undone.length, 'step') }} without a time: see
        <VBtn variant="text" @click="shown = 'steps'">Steps</VBtn>, at its end.
      </p>
      <p v-if="schedule.defect" class="wrong-words" role="alert">
        The schedule could not be computed. {{ schedule.defect }}
      </p>
      <p v-if="schedule.tooMany" class="wrong-words" role="alert">
        {{ count(schedule.tooMany.count, 'activity', 'activities') }} are more than the
        {{ schedule.tooMany.most }} that are laid out. Leave out kinds that this site needs none of, under
        People and hours, or plan it as several sites.
      </p>
      <TabBar v-model="shown" :parts="parts" label="Parts of the run sheet" />
      <ReadingNotice
        v-if="!schedule.timetable && !schedule.tooMany && shown !== 'crew'"
        words="Laying out the work"
      />
      <div
        v-else-if="shown === 'timeline' && schedule.timetable"
        role="tabpanel"
        aria-labelledby="tab-timeline"
      >
        <TimelinePicture :timetable="schedule.timetable" :chosen="chosen" @choose="choose" />
        <p v-if="schedule.timetable.turnBackMin !== null" class="caution small">
          Turn back at the latest by {{ timeText(start, schedule.timetable.turnBackMin) }}: after that the way
          back, at its worst, no longer fits into the window.
        </p>
      </div>
      <div v-else-if="shown === 'steps' && schedule.timetable" role="tabpanel" aria-labelledby="tab-steps">
        <StepTable v-model:chosen="chosen" :timetable="schedule.timetable" />
      </div>
      <div v-else-if="shown === 'bench'" role="tabpanel" aria-labelledby="tab-bench"><BenchPanel /></div>
      <div
        v-else-if="shown === 'chances' && schedule.timetable"
        role="tabpanel"
        aria-labelledby="tab-chances"
      >
        <ChancePanel :timetable="schedule.timetable" :spread="schedule.spread" :crews="schedule.crews" />
      </div>
      <div v-else-if="shown === 'crew'" role="tabpanel" aria-labelledby="tab-crew"><CrewPanel /></div>
      <p class="caution small">
        Heights, masts, mains and lightning protection are for people who are trained and licensed for it,
        never alone<template v-if="plan.draft.work.windLimitMps !== null"
          >, and not in wind above {{ plan.draft.work.windLimitMps }} m/s</template
        >; nobody stands in front of an antenna that sends. Local codes decide.
      </p>
    </template>
  </section>
</template>

<style scoped>
.assumed {
  color: var(--magenta);
  margin: 0 0 8px;
  padding-left: 18px;
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  margin-top: 12px;
}
</style>
