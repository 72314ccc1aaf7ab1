<script setup lang="ts">
import { isTimed, peopleOf } from '#core/schedule'
import { useCurrentSchedule } from '~/features/run-sheet/current-schedule'
import { timeText } from '~/features/run-sheet/times'
import { skillsText } from '~/features/run-sheet/words'
import { titlesOf } from '~/wording/activities'
import { useOpenedSite } from '~/stores/opened-site'
import { usePlan } from '~/stores/plan'
import PaperPage from '~/ui/PaperPage.vue'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import { count } from '~/wording/count'
import { sentenceOf } from '~/wording/problems'

/** The run sheet on paper: a page for each person, with room for a tick and what was read. */
const plan = usePlan()
const slug = useOpenedSite()
const { schedule, startDate } = useCurrentSchedule()
const title = computed(() => (plan.draft ? titlesOf(plan.draft) : () => ''))
const undone = computed(
  () => (schedule.timetable?.rows ?? []).filter(({ unplaced }) => unplaced !== null).length,
)
const pages = computed(() =>
  (plan.draft ? peopleOf(plan.draft) : []).map((person) => ({
    person,
    rows: (schedule.timetable?.rows ?? []).filter(isTimed).filter(({ personId }) => personId === person.id),
  })),
)
</script>

<template>
  <PaperPage :back="`/sites/${slug}/run-sheet`" :ready="!schedule.seeking && pages.length > 0">
    <p v-if="plan.loading === 'failed'" role="alert">{{ plan.problems.map(sentenceOf).join('; ') }}</p>
    <p v-else-if="schedule.tooMany">There are more steps than are laid out.</p>
    <ReadingNotice v-else-if="!schedule.timetable" words="Laying out the work" />
    <p v-else-if="schedule.timetable.rows.length === 0">Nothing to do yet: the work follows from the plan.</p>
    <template v-else>
      <p v-if="undone > 0" role="alert">
        {{ count(undone, 'step') }} without a time {{ undone === 1 ? 'is' : 'are' }} not on these pages.
      </p>
      <section v-for="{ person, rows } in pages" :key="person.id">
        <h1>{{ plan.draft?.site.name }}: {{ person.name }}</h1>
        <p class="small">
          Revision {{ plan.saved?.revision }}; {{ person.from }} to {{ person.to }};
          {{ skillsText(person.skills) || 'no special skills' }}. Heights, mains and lightning protection are
          for people trained and licensed for it; local codes decide.
        </p>
        <VTable class="ruled" :aria-label="`Steps of ${person.name}`">
          <thead>
            <tr>
              <th>Done</th>
              <th>From</th>
              <th class="num">Min</th>
              <th>What</th>
              <th>Where</th>
              <th>Read, noted</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.id">
              <td><span class="box" aria-hidden="true" /></td>
              <td class="mono nowrap">{{ timeText(startDate, row.startMin) }}</td>
              <td class="num mono">{{ Math.round(row.endMin - row.startMin) }}</td>
              <th scope="row">{{ title(row) }}</th>
              <td>{{ row.place }}</td>
              <td class="room"></td>
            </tr>
          </tbody>
        </VTable>
      </section>
    </template>
  </PaperPage>
</template>

<style scoped>
section + section {
  break-before: page;
  margin-top: 24px;
}
.box {
  display: inline-block;
  width: 14px;
  height: 14px;
  border: 1px solid var(--ink);
}
.room {
  min-width: 140px;
}
.nowrap {
  white-space: nowrap;
}
tr {
  break-inside: avoid;
}
</style>
