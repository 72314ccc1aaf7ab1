<script setup lang="ts">
import { mdiArrowRight } from '@mdi/js'
import { useTimestamp } from '@vueuse/core'
import { askFor } from './actions'
import { usePointer } from './finding-navigation'
import { nextStepOf, type WorkState } from './next-step'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'

/** Names the one thing to do now on a stage, and goes there. */
const props = defineProps<{ stage: string }>()
const plan = usePlan()
const site = useSite()
const session = useSession()
const analysis = useAnalysis()
const { goTo } = usePointer()
const nowMs = useTimestamp({ interval: 1000 })

/** Stages whose work is the planner's alone. */
const PLANNED = ['brief', 'plan', 'rehearse']
/** A device's state changes as time passes: it is asked only where it is looked at. */
const devices = computed(() =>
  props.stage === 'adopt'
    ? site.roster?.rows.map((row) => ({ id: row.deviceId, state: site.stateOf(row, nowMs.value) }))
    : undefined,
)
const work = computed(
  (): WorkState | null =>
    plan.draft && {
      plan: plan.draft,
      findings: analysis.analysis?.findings,
      grid: analysis.analysis?.grid,
      devices: devices.value,
      tests: site.proof?.tests,
      passed: site.passed,
    },
)
const next = computed(() => {
  const step = work.value && nextStepOf(props.stage, work.value)
  // Handing over is everybody's who may read it.
  const isMine = PLANNED.includes(props.stage) ? session.edits : session.works || step?.sheet === 'hand-over'
  return isMine ? step : null
})
async function go(): Promise<void> {
  const step = next.value
  if (!step) return
  if (step.finding) return goTo(step.finding)
  if (step.action && session.edits) askFor(step.action)
  await navigateTo(`/sites/${plan.slug}/${step.sheet}`)
}
</script>

<template>
  <VBtn v-if="next" class="next" variant="text" :append-icon="mdiArrowRight" @click="go">
    <span><span class="soft">Next: </span>{{ next.words }}</span>
  </VBtn>
</template>

<style scoped>
.next {
  height: auto;
  min-height: 28px;
  margin: 6px 0 2px -8px;
  padding: 3px 8px;
  justify-content: start;
  text-align: left;
  white-space: normal;
  line-height: 17px;
  font-size: 13px;
}
.next :deep(.v-btn__content) {
  white-space: normal;
  text-align: left;
  display: block;
}
</style>
