<script setup lang="ts">
import { mdiBarcodeScan } from '@mdi/js'
import { stepReadingProblem, type StepCard, type TimetableRow } from '#core/schedule'
import type { StepRecord } from '#contracts/api'
import type { ShownRecord } from './steps'
import { keptValues, READINGS } from './words'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { STEP_STATES } from '~/wording/activities'
import { dateText } from '~/wording/adoption'
import { reasonOf, sentenceOf } from '~/wording/problems'

const ScanDialog = defineAsyncComponent(() => import('~/ui/ScanDialog.vue'))

/** What became of a step: begun, done with its reading, not as it should be, or skipped with the reason. */
const { row, card, record, person } = defineProps<{
  row: TimetableRow
  card: StepCard
  record: ShownRecord | undefined
  /** Whose cards are shown; empty for everybody's. */
  person: string
}>()
const emit = defineEmits<{ told: [activityId: string, state: StepRecord['state']] }>()
const plan = usePlan()
const site = useSite()
const session = useSession()
/** What the plan knows of it already; a serial is read off or typed in the Brief before. */
const known = computed(() =>
  card.reading === 'serial' ? (card.values.find(({ field }) => field === 'serial')?.value ?? '') : '',
)
const reading = ref('')
const note = ref('')
/** What is asked for before it is told. */
const asking = ref<'failed' | 'skipped' | null>(null)
watch(
  () => row.id,
  () => {
    reading.value = known.value
    note.value = ''
    asking.value = null
    site.problems = []
  },
  { immediate: true },
)
const words = computed(() => card.reading && READINGS[card.reading])
const trouble = computed(() =>
  plan.index && reading.value.trim() !== ''
    ? stepReadingProblem(plan.index, row, card.reading, reading.value.trim())
    : null,
)
/** A reading that is one, and is not what is planned, is kept and told; one that is none is not taken. */
const DIFFERS = ['other-version', 'slow-link', 'longer-cable']
/** Outdoors nobody begins without having read the wind, or above its limit. */
const mayNotBegin = computed(() => card.reading === 'wind' && (needsReading.value || isUnread.value))
const isUnread = computed(() => trouble.value !== null && !DIFFERS.includes(trouble.value.code))
const needsReading = computed(() => words.value !== null && reading.value.trim() === '')
const isScanning = ref(false)
/** Why a scanned text is no serial; its check character is judged at once. */
function judgeSerial(text: string): string {
  const wrong = plan.index && stepReadingProblem(plan.index, row, 'serial', text)
  return wrong ? reasonOf(wrong) : ''
}
const isSomebodyElses = computed(() => record !== undefined && record.who !== session.me?.name)

async function tell(state: StepRecord['state']): Promise<void> {
  // Somebody may turn to another card while the server answers.
  const { id: activityId, deviceId } = row
  const [values, whose] = [keptValues(card), person]
  const differs = trouble.value && !isUnread.value ? reasonOf(trouble.value) : ''
  const told = [note.value.trim(), differs].filter((text) => text !== '').join('; ')
  const isRead = state === 'done' || (state === 'started' && card.reading === 'wind')
  const value = isRead ? reading.value.trim() : ''
  // A serial that the server does not take leaves the step as it is, with the reason.
  const claims = state === 'done' && card.reading === 'serial' && deviceId !== null
  if (claims && !(await site.claim(value, deviceId))) return
  if (!(await site.recordStep({ activityId, state, reading: value, note: told, person: whose, values })))
    return
  emit('told', activityId, state)
  if (row.id !== activityId) return
  asking.value = null
  note.value = ''
  if (state !== 'started') reading.value = ''
}
</script>

<template>
  <p v-if="record" role="status" class="small told">
    {{ STEP_STATES[record.state] }} by {{ record.who }}, {{ dateText(record.at)
    }}{{ record.reading ? `: ${record.reading}` : '' }}{{ record.note ? ` (${record.note})` : ''
    }}{{ record.isWaiting ? ', not sent yet' : '' }}
    <template v-if="isSomebodyElses"> What you tell now is kept beside it.</template>
  </p>
  <template v-if="session.works">
    <VTextField
      v-if="words && record?.state !== 'done'"
      v-model="reading"
      class="mono reading"
      :label="words.label"
      :placeholder="words.example"
      persistent-placeholder
      maxlength="200"
      autocomplete="off"
      spellcheck="false"
      :error-messages="trouble ? [reasonOf(trouble)] : []"
    />
    <VBtn
      v-if="card.reading === 'serial' && record?.state !== 'done'"
      class="scan"
      size="x-large"
      :prepend-icon="mdiBarcodeScan"
      @click="isScanning = true"
      >Scan the label</VBtn
    >
    <ScanDialog
      v-if="isScanning"
      v-model="isScanning"
      title="Scan the serial"
      :judge="judgeSerial"
      @read="reading = $event"
    />
    <div class="acts">
      <VBtn v-if="!record" size="x-large" :disabled="mayNotBegin" @click="tell('started')">Start</VBtn>
      <VBtn
        v-if="record?.state !== 'done'"
        size="x-large"
        variant="flat"
        :disabled="needsReading || isUnread"
        @click="tell('done')"
        >Done</VBtn
      >
      <template v-if="record?.state !== 'done'">
        <VBtn size="x-large" @click="asking = 'failed'">Not as it should be</VBtn>
        <VBtn size="x-large" variant="text" @click="asking = 'skipped'">Skip</VBtn>
      </template>
      <VBtn v-if="record && record.state !== 'started'" size="x-large" variant="text" @click="tell('open')"
        >Take back</VBtn
      >
    </div>
    <form v-if="asking" class="why" @submit.prevent="note.trim() && tell(asking)">
      <VTextField
        v-model="note"
        :label="asking === 'skipped' ? 'Why it is skipped' : 'What is not as it should be'"
        maxlength="300"
        autofocus
      />
      <VBtn type="submit" size="x-large" :disabled="note.trim() === ''">{{
        asking === 'skipped' ? 'Skip it' : 'Record it'
      }}</VBtn>
    </form>
    <p v-if="record?.state === 'failed'">
      <NuxtLink :to="`/sites/${plan.slug}/diagnose`">Diagnose</NuxtLink> looks for what explains it. What can
      go on without this step is laid out again.
    </p>
    <p v-for="(problem, i) in site.problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
  </template>
</template>

<style scoped>
.acts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin-top: 10px;
}
.scan {
  margin-top: 8px;
}
.why {
  display: grid;
  gap: 8px;
  margin-top: 10px;
}
.reading {
  margin-top: 10px;
}
.told {
  border-left: 3px solid var(--kelp);
  padding-left: 8px;
}
</style>
