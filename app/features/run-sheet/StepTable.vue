<script setup lang="ts">
import { adjust } from '#core/edit'
import type { Timetable } from '#core/schedule'
import { useStepColumns } from './step-columns'
import { detailWords } from './words'
import { titleOfId, titlesOf } from '~/wording/activities'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import SheetTable from '~/ui/SheetTable.vue'

/** Every activity in the order of its time; who, not before and left out are wishes that stay. */
const { timetable } = defineProps<{ timetable: Timetable }>()
const chosen = defineModel<string>('chosen', { required: true })
const plan = usePlan()
const session = useSession()
const columns = useStepColumns()
const titles = computed(() => (plan.draft ? titlesOf(plan.draft) : () => ''))
const row = computed(() => timetable.rows.find(({ id }) => id === chosen.value) ?? null)
const detail = computed(() => {
  const before = timetable.rows.find(({ id }) => id === row.value?.waitsFor)
  return row.value ? detailWords(row.value, before ? titles.value(before) : '') : ''
})
const leftOut = computed(() =>
  (plan.draft?.work.adjustments ?? [])
    .filter(({ isLeftOut }) => isLeftOut)
    .map(({ activityId }) => ({
      id: activityId,
      title: plan.draft ? titleOfId(plan.draft, activityId) : activityId,
    })),
)
const takeBack = (id: string) =>
  plan.edit('step taken back', '', ({ work }) => adjust(work, id, { isLeftOut: false }))
</script>

<template>
  <p class="small detail" role="status">
    <template v-if="row"
      ><b>{{ titles(row) }}.</b> {{ detail }}</template
    >
    <span v-else class="soft">A step that is chosen says here what it waits for.</span>
  </p>
  <SheetTable
    label="Steps"
    :columns="columns"
    :rows="timetable.rows"
    :name-of="titles"
    :readonly="!session.edits"
    :chosen="chosen"
    :trouble="(step, key) => key === 'what' && step.unplaced !== null"
    :focus-at="null"
    ordered
    @choose="chosen = $event"
  />
  <section v-if="leftOut.length > 0" class="left-out">
    <h2>Left out</h2>
    <ul>
      <li v-for="step in leftOut" :key="step.id">
        {{ step.title }}
        <VBtn v-if="session.edits" variant="text" @click="takeBack(step.id)">
          Take back<span class="sr"> {{ step.title }}</span>
        </VBtn>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.detail {
  border-left: 3px solid var(--deep);
  padding-left: 8px;
  margin-bottom: 8px;
  /* Two lines, so that nothing moves under a second click. */
  min-height: 42px;
}
.left-out {
  margin-top: 12px;
}
.left-out ul {
  list-style: none;
  padding: 0;
}
</style>
