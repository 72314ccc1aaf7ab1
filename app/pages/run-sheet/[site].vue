<script setup lang="ts">
import { isTimed, peopleOf } from '#core/schedule'
import { useCurrentSchedule } from '~/features/run-sheet/current-schedule'
import { timeText } from '~/features/run-sheet/times'
import { skillsText, titlesOf } from '~/features/run-sheet/words'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import { sentenceOf } from '~/wording/problems'

/** The run sheet on paper: a page for each person, with room for a tick and what was read. */
const route = useRoute()
const plan = usePlan()
const site = useSite()
const slug = computed(() => String(route.params['site']))
watch(slug, (wanted) => Promise.all([plan.open(wanted), site.watchSite(wanted)]), { immediate: true })
onUnmounted(() => site.leave())
const { schedule, startDate } = useCurrentSchedule()
const title = computed(() => (plan.draft ? titlesOf(plan.draft) : () => ''))
const pages = computed(() =>
  (plan.draft ? peopleOf(plan.draft) : []).map((person) => ({
    person,
    rows: (schedule.timetable?.rows ?? []).filter(isTimed).filter(({ personId }) => personId === person.id),
  })),
)
const print = () => globalThis.print()
</script>

<template>
  <main class="page">
    <p class="no-print acts">
      <VBtn :to="`/sites/${slug}/run-sheet`">Back</VBtn>
      <VBtn variant="flat" :disabled="schedule.seeking" @click="print">Print</VBtn>
    </p>
    <template v-if="plan.loading === 'failed'">
      <p v-for="(problem, i) in plan.problems" :key="i" role="alert">{{ sentenceOf(problem) }}</p>
    </template>
    <ReadingNotice v-else-if="!schedule.timetable" words="Laying out the work" />
    <template v-else>
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
  </main>
</template>

<style scoped>
.page {
  height: 100vh;
  overflow: auto;
  padding: 18px 24px 40px;
}
@media print {
  .page {
    height: auto;
    overflow: visible;
    padding: 0;
  }
}
.acts {
  display: flex;
  gap: 8px;
}
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
