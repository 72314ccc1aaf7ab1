<script setup lang="ts">
import { mdiChevronLeft, mdiChevronRight } from '@mdi/js'
import { until, useStorage, useSwipe } from '@vueuse/core'
import { changedValues, disputesOf, peopleOf, stepCard } from '#core/schedule'
import type { StepRecord } from '#contracts/api'
import { useKeptOffline } from './keep-offline'
import CardValues from './CardValues.vue'
import StepActions from './StepActions.vue'
import StepPhotos from './StepPhotos.vue'
import { blockersOf, currentStep, isOver, newestRecords, stepsOf, type ShownRecord } from './steps'
import { cautionOf, keptValues, KEEPING, reminderOf } from './words'
import { useCurrentSchedule } from '../run-sheet/current-schedule'
import { lengthText, timeText } from '../run-sheet/times'
import { WAITED_MS } from '~/stores/opened-site'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import { showAtTop } from '~/ui/scroll-to'
import { STEP_STATES, titlesOf } from '~/wording/activities'
import { count } from '~/wording/count'

// What few cards have is loaded when one has it.
const ChangedValues = defineAsyncComponent(() => import('./ChangedValues.vue'))
const WaitCountdown = defineAsyncComponent(() => import('./WaitCountdown.vue'))
const StepDispute = defineAsyncComponent(() => import('./StepDispute.vue'))
const KeptPassphrases = defineAsyncComponent(() => import('./KeptPassphrases.vue'))

/** One step at a time, for a telephone in a hand: what, where, with which values, and what became of it. */
const plan = usePlan()
const site = useSite()
const session = useSession()
const { schedule, startDate } = useCurrentSchedule()
const keeping = useKeptOffline()
const people = computed(() => (plan.draft ? peopleOf(plan.draft) : []))
/** Whose cards are shown, remembered on this telephone. */
const kept = useStorage(() => `field-cards/${plan.slug}`, '')
const mine = computed(() => (people.value.some(({ id }) => id === kept.value) ? kept.value : ''))
const offers = computed(() => [
  { title: 'Everybody', value: '' },
  ...people.value.map(({ id, name }) => ({ title: name, value: id })),
])

const rows = computed(() => schedule.timetable?.rows ?? [])
const newest = computed(() => newestRecords(site.steps))
const steps = computed(() => stepsOf(rows.value, mine.value))
const titles = computed(() => (plan.draft ? titlesOf(plan.draft) : () => ''))
const chosen = ref('')
const id = computed(() =>
  steps.value.some((row) => row.id === chosen.value)
    ? chosen.value
    : currentStep(steps.value, newest.value, rows.value),
)
const at = computed(() => steps.value.findIndex((row) => row.id === id.value))
const row = computed(() => steps.value[at.value] ?? null)
const next = computed(() =>
  steps.value.slice(at.value + 1).find((each) => !isOver(newest.value.get(each.id))),
)
const record = computed(() => newest.value.get(id.value))
const card = computed(() => (plan.index && row.value ? stepCard(plan.index, row.value) : null))
const dispute = computed(() => disputesOf(site.steps).get(id.value))
const values = computed(() => (card.value ? keptValues(card.value) : []))
/** What the card said when somebody turned to it. */
const seen = shallowRef(values.value)
watch([() => plan.slug, id], () => (seen.value = values.value), { flush: 'post' })
const changedSinceSeen = computed(() => (record.value ? [] : changedValues(seen.value, values.value)))
const changedSinceTold = computed(() => {
  const told = record.value?.values ?? []
  return told.length > 0 ? changedValues(told, values.value) : []
})
/** Tells what was told before once more, of the time when it was so, now that all of it is known. */
const tellAgain = ({ activityId, state, reading, note, at: toldAt, person }: ShownRecord) =>
  site.recordStep({ activityId, state, reading, note, person, values: values.value }, toldAt)
const blockers = computed(() => (row.value ? blockersOf(row.value, newest.value, rows.value) : []))
const doneCount = computed(() => steps.value.filter((each) => isOver(newest.value.get(each.id))).length)
const who = computed(() => people.value.find((person) => person.id === row.value?.personId)?.name ?? '')

const go = (by: number) => void (chosen.value = steps.value[at.value + by]?.id ?? id.value)
const title = useTemplateRef<HTMLElement>('title')
async function choose(step: string): Promise<void> {
  chosen.value = step
  await nextTick()
  if (title.value) showAtTop(title.value)
}
/** What was told decides what comes next, unless somebody has turned to another card. */
function told(step: string, state: StepRecord['state']): void {
  if (id.value === step && state !== 'started' && state !== 'open') chosen.value = ''
}
const sheet = useTemplateRef<HTMLElement>('sheet')
const { direction } = useSwipe(sheet, {
  threshold: 60,
  onSwipeEnd: () => {
    if (direction.value === 'left') go(1)
    if (direction.value === 'right') go(-1)
  },
})
await until(() => schedule.timetable !== null && site.hasAskedSteps).toBe(true, { timeout: WAITED_MS })
</script>

<template>
  <section v-if="plan.draft" ref="sheet" class="sheet cards">
    <header>
      <h1>Field cards</h1>
      <p v-if="steps.length > 0" role="status">
        {{ doneCount }} of {{ count(steps.length, 'step') }} done or skipped. {{ KEEPING[keeping] }}
      </p>
    </header>
    <p v-if="(!schedule.timetable || !site.hasAskedSteps) && !schedule.defect && !schedule.tooMany">
      <ReadingNotice words="Laying out the work" />
    </p>
    <p v-else-if="schedule.tooMany">
      There are more steps than are laid out: see
      <NuxtLink :to="`/sites/${plan.slug}/run-sheet`">Run sheet</NuxtLink>.
    </p>
    <p v-else-if="rows.length === 0">
      No step yet: the work follows from the plan. See
      <NuxtLink :to="`/sites/${plan.slug}/run-sheet`">Run sheet</NuxtLink>.
    </p>
    <template v-else>
      <VSelect :model-value="mine" label="Cards of" :items="offers" @update:model-value="kept = $event" />
      <p v-if="!row" role="status">All of these steps are done or skipped.</p>
      <article v-else :aria-label="titles(row)">
        <p class="top small">
          <template v-if="!record">
            {{ row.startMin === null ? 'no time yet' : timeText(startDate, row.startMin) }} ·
          </template>
          {{ lengthText(row.duration.usualMin) }} · {{ row.place || 'anywhere' }}
          <template v-if="who"> · {{ who }}</template>
        </p>
        <h2 ref="title" tabindex="-1">{{ titles(row) }}</h2>
        <p v-if="blockers.length > 0" class="small wrong-words">
          Not yet: {{ blockers.slice(0, 3).map(titles).join('; ')
          }}{{ blockers.length > 3 ? `; ${blockers.length - 3} more` : '' }}.
        </p>
        <p v-if="cautionOf(row)" class="caution small">{{ cautionOf(row) }}</p>
        <p v-if="reminderOf(row.kind)" class="small">{{ reminderOf(row.kind) }}</p>
        <p v-if="row.kind === 'aim'">
          <NuxtLink :to="`/sites/${plan.slug}/aiming`">Open Aiming</NuxtLink>
        </p>
        <p v-if="row.kind === 'prove' || row.kind === 'failover'">
          <NuxtLink :to="`/sites/${plan.slug}/prove`">Open the acceptance tests</NuxtLink>
        </p>
        <WaitCountdown v-if="record?.state === 'started'" :row="row" :since="record.at" />
        <StepDispute v-if="dispute" :dispute="dispute" @holds="tellAgain" />
        <ChangedValues
          v-if="changedSinceSeen.length > 0"
          :changes="changedSinceSeen"
          since="while you looked"
        >
          <VBtn @click="seen = values">Understood</VBtn>
        </ChangedValues>
        <ChangedValues
          v-if="record && changedSinceTold.length > 0"
          :changes="changedSinceTold"
          since="since this was told"
        >
          <VBtn v-if="session.works" @click="tellAgain(record)">It still holds</VBtn>
        </ChangedValues>
        <CardValues v-if="card" :card="card" />
        <StepActions v-if="card" :row="row" :card="card" :record="record" :person="mine" @told="told" />
        <StepPhotos :activity-id="id" :title="titles(row)" />
      </article>
      <nav class="turn" aria-label="Cards">
        <VBtn size="x-large" :prepend-icon="mdiChevronLeft" :disabled="at <= 0" @click="go(-1)"
          >Previous</VBtn
        >
        <VBtn
          size="x-large"
          :append-icon="mdiChevronRight"
          :disabled="at < 0 || at >= steps.length - 1"
          @click="go(1)"
          >Next</VBtn
        >
      </nav>
      <p v-if="next" class="small soft next">Next: {{ titles(next) }}</p>
      <VExpansionPanels>
        <VExpansionPanel :title="`All ${steps.length} steps`">
          <template #text>
            <ol class="all">
              <li v-for="step in steps" :key="step.id">
                <VBtn
                  variant="text"
                  :aria-current="step.id === id ? 'step' : undefined"
                  @click="choose(step.id)"
                >
                  {{ titles(step) }}
                </VBtn>
                <span v-if="newest.get(step.id)" class="small">
                  {{ STEP_STATES[newest.get(step.id)?.state ?? 'open'] }}
                </span>
                <span v-else-if="blockersOf(step, newest, rows).length > 0" class="small soft">
                  waits for {{ count(blockersOf(step, newest, rows).length, 'step') }}
                </span>
              </li>
            </ol>
          </template>
        </VExpansionPanel>
        <VExpansionPanel title="Wi-Fi passphrases">
          <template #text><KeptPassphrases /></template>
        </VExpansionPanel>
      </VExpansionPanels>
    </template>
  </section>
</template>

<style scoped>
.cards {
  max-width: 560px;
}
article {
  margin-top: 10px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  background: var(--panel);
}
article h2 {
  font-size: 21px;
  line-height: 1.2;
  margin: 2px 0 6px;
}
.top {
  color: var(--soft);
  margin: 0;
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
}
.turn {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin: 10px 0 4px;
}
.next {
  margin-bottom: 10px;
}
.all {
  padding-left: 22px;
}
.all :deep(.v-btn__content) {
  white-space: normal;
  text-align: left;
}
</style>
