<script setup lang="ts">
import { falseAlarmsPerYear, outage, roundLoss, roundsToRun, type AlarmRun } from '#core/failover'
import { uplinksInOrder } from '#core/queries'
import type { Uplink } from '#core/schema'
import LineFailureTable from './LineFailureTable.vue'
import OutageStrip from './OutageStrip.vue'
import { usePlayedFailure } from './played-failure'
import WishFields from './WishFields.vue'
import { alarmWords, jointWords, rateWords, secondsWords, shareWords } from './words'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'

/** What a failure of a line costs in time, played and by formula. */
const props = defineProps<{ uplink: Uplink; backup: Uplink }>()
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()

const shared = computed(() => (plan.draft ? shareWords(uplinksInOrder(plan.draft), props.uplink) : ''))
const over = computed(() => (props.uplink.probe ? outage(props.uplink.probe, props.backup) : null))
const alarms = computed(() =>
  props.uplink.probe ? falseAlarmsPerYear(props.uplink.probe, props.uplink.lossPct) : 0,
)
const joint = computed(() => (plan.index ? jointWords(plan.index, props.uplink, props.backup) : ''))
const rounds = computed(() =>
  props.uplink.probe
    ? roundsToRun(roundLoss(props.uplink.probe, props.uplink.lossPct), props.uplink.probe.misses)
    : 0,
)

const strip = useTemplateRef<InstanceType<typeof OutageStrip>>('strip')
const { played, nowS, speed, recorded, test, atS, backS, play, record } = usePlayedFailure(props)
const SPEEDS = [1, 5, 20, 100].map((value) => ({ value, title: `${value}×` }))

/** So that the same settings simulate the same. */
const SEED = 20_261_125
const run = shallowRef<AlarmRun | null>(null)
const simulating = ref(false)
async function simulate(): Promise<void> {
  if (!props.uplink.probe) return
  simulating.value = true
  run.value = await analysis.alarms(props.uplink.probe, props.uplink.lossPct, SEED)
  simulating.value = false
}
watch(
  () => [props.uplink.id, props.uplink.probe, props.backup.id],
  () => (run.value = null),
)
</script>

<template>
  <div class="row">
    <h2>If {{ uplink.name }} dies{{ shared }}</h2>
    <span v-if="uplink.probe" class="tools">
      <VSelect label="Play at" v-model="speed" :items="SPEEDS" />
      <VBtn @click="play(strip?.mendS ?? 120)">Play it</VBtn>
    </span>
  </div>
  <p v-if="!uplink.probe" class="none">
    {{ uplink.name }} is not probed: when it fails beyond the modem, nothing changes over. Type whom to ask
    under Probes.
  </p>
  <template v-else>
    <OutageStrip
      ref="strip"
      :uplink="uplink"
      :probe="uplink.probe"
      :backup="backup"
      :played="played"
      :now-s="nowS"
    />
    <p v-if="played.length > 0 && nowS === null && over" class="small" role="status">
      Played: on {{ backup.name }} after <b class="mono">{{ secondsWords(atS('carried') ?? 0) }}</b> (planned
      <span class="mono">{{ secondsWords(over.leastS) }}</span> to
      <span class="mono">{{ secondsWords(over.worstS) }}</span>), back
      <b class="mono">{{ secondsWords(backS) }}</b> after it was well.
      <VBtn
        v-if="session.works && test && recorded === ''"
        @click="record(`planned ${over.leastS} to ${over.worstS} s`)"
      >
        Save as a proof record</VBtn
      ><span v-if="recorded" class="soft">{{ recorded }}</span>
    </p>
    <p class="small">
      False alarms at {{ uplink.lossPct }} % loss: <b>{{ rateWords(alarms) }}</b>,
      {{ rounds.toLocaleString('en', { maximumFractionDigits: 0 }) }}
      rounds apart.
      <VBtn :disabled="simulating" @click="simulate">
        {{ simulating ? 'Simulating' : 'Simulate' }}
      </VBtn>
      <span v-if="run" role="status"> {{ alarmWords(run) }}</span>
    </p>
    <p v-if="joint" class="small">{{ joint }}</p>
    <WishFields :uplink="uplink" :backup="backup" />
  </template>
  <LineFailureTable :uplink="uplink" :backup="backup" />
</template>

<style scoped>
.row {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  flex-wrap: wrap;
}
.row .tools,
.wish {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
.row select {
  width: auto;
  padding: 1px 4px;
}
.none {
  color: var(--magenta);
}
</style>
