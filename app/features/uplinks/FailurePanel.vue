<script setup lang="ts">
import {
  falseAlarmsPerYear,
  jointAvailability,
  minutesWithout,
  outage,
  playFailure,
  roundLoss,
  roundsToRun,
  SHARED_SHARE,
  sharedRisksOf,
  type AlarmRun,
  type Played,
} from '#core/failover'
import { uplinkGroup, uplinksInOrder, uplinkShare } from '#core/queries'
import type { Uplink } from '#core/schema'
import OutageStrip from './OutageStrip.vue'
import LineFailureTable from './LineFailureTable.vue'
import WishFields from './WishFields.vue'
import { rateWords } from './words'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { count } from '~/wording/findings'

/** What a failure of a line costs in time, played and by formula. */
const props = defineProps<{ uplink: Uplink; backup: Uplink }>()
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const site = useSite()

const uplinks = computed(() => (plan.draft ? uplinksInOrder(plan.draft) : []))
const shareWords = computed(() => {
  const { uplink } = props
  if (uplinkGroup(uplinks.value, uplink).length < 2) return ''
  const turn = uplink.priority === uplinks.value[0]?.priority ? '' : ' when it is its turn'
  return `, with ${Math.round(uplinkShare(uplinks.value, uplink))} % of new flows on it${turn}`
})
const over = computed(() => (props.uplink.probe ? outage(props.uplink.probe, props.backup) : null))
const alarms = computed(() =>
  props.uplink.probe ? falseAlarmsPerYear(props.uplink.probe, props.uplink.lossPct) : 0,
)
const joint = computed(() => {
  const { uplink, backup } = props
  if (uplink.availablePct === null || backup.availablePct === null) return ''
  const shared = sharedRisksOf(uplink, backup).length > 0
  const pct = jointAvailability(uplink.availablePct, backup.availablePct, shared)
  const without = Math.round(minutesWithout(pct)).toLocaleString('en')
  const leaning = shared
    ? `, taking it that ${SHARED_SHARE * 100} % of failures strike what both lean on`
    : ''
  return `One of the two works ${pct.toFixed(4)} % of the year: ${without} min without any${leaning}.`
})

// Playing one failure, as fast as one likes.
const played = shallowRef<readonly Played[]>([])
const nowS = ref<number | null>(null)
const speed = ref(20)
const strip = useTemplateRef<InstanceType<typeof OutageStrip>>('strip')
let seed = 1
let ticking = 0
function play(): void {
  const { uplink, backup } = props
  if (!uplink.probe) return
  cancelAnimationFrame(ticking)
  recorded.value = ''
  played.value = playFailure(uplink.probe, uplink, backup, strip.value?.mendS ?? 120, seed++)
  const end = played.value.at(-1)?.atS ?? 0
  let last = performance.now()
  nowS.value = 0
  const tick = (now: number) => {
    nowS.value = (nowS.value ?? 0) + ((now - last) / 1000) * speed.value
    last = now
    if (nowS.value < end) ticking = requestAnimationFrame(tick)
    else nowS.value = null
  }
  ticking = requestAnimationFrame(tick)
}
onBeforeUnmount(() => cancelAnimationFrame(ticking))
watch(
  () => [props.uplink.id, props.uplink.probe, props.backup.id],
  () => {
    cancelAnimationFrame(ticking)
    played.value = []
    nowS.value = null
    run.value = null
  },
)
// What was played is kept as a record of its own: from the lab, and said so.
const recorded = ref('')
const failoverTest = computed(() =>
  site.proof?.tests.find((t) => t.kind === 'failover' && t.under === props.uplink.id),
)
async function recordPlayed(): Promise<void> {
  const [test, onto] = [failoverTest.value, seconds('carried')]
  if (!test || onto === undefined) return
  await plan.flush()
  const back = (seconds('back') ?? 0) - (seconds('mended') ?? 0)
  const kept = await site.record({
    testId: test.id,
    passed: onto <= (test.withinS ?? 0),
    vantage: 'played in the lab',
    value: `on ${props.backup.name} after ${tenth(onto)}, back ${tenth(back)} after it was well`,
    note: `planned ${over.value?.leastS} to ${over.value?.worstS} s`,
  })
  recorded.value = kept ? 'Kept with the acceptance tests.' : 'It could not be kept.'
}
const seconds = (what: Played['what']) => played.value.find((p) => p.what === what)?.atS
const tenth = (n: number) => `${Math.round(n * 10) / 10} s`

const run = shallowRef<AlarmRun | null>(null)
const simulating = ref(false)
async function simulate(): Promise<void> {
  const { uplink } = props
  if (!uplink.probe) return
  simulating.value = true
  run.value = await analysis.alarms(uplink.probe, uplink.lossPct, 20_261_125)
  simulating.value = false
}

const whole = (value: number): string => value.toLocaleString('en', { maximumFractionDigits: 0 })
</script>

<template>
  <div class="row">
    <h2>If {{ uplink.name }} dies{{ shareWords }}</h2>
    <span v-if="uplink.probe" class="tools">
      <VSelect
        label="Play at"
        v-model="speed"
        :items="[
          { value: 1, title: '1×' },
          { value: 5, title: '5×' },
          { value: 20, title: '20×' },
          { value: 100, title: '100×' },
        ]"
      />
      <VBtn @click="play">Play it</VBtn>
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
      Played: on {{ backup.name }} after <b class="mono">{{ tenth(seconds('carried') ?? 0) }}</b> (planned
      <span class="mono">{{ tenth(over.leastS) }}</span> to
      <span class="mono">{{ tenth(over.worstS) }}</span>), back
      <b class="mono">{{ tenth((seconds('back') ?? 0) - (seconds('mended') ?? 0)) }}</b> after it was well.
      <VBtn v-if="session.works && failoverTest && recorded === ''" @click="recordPlayed">
        Save as a proof record</VBtn
      ><span v-if="recorded" class="soft">{{ recorded }}</span>
    </p>
    <p class="small">
      False alarms at {{ uplink.lossPct }} % loss: <b>{{ rateWords(alarms) }}</b>,
      {{
        roundsToRun(roundLoss(uplink.probe, uplink.lossPct), uplink.probe.misses).toLocaleString('en', {
          maximumFractionDigits: 0,
        })
      }}
      rounds apart.
      <VBtn :disabled="simulating" @click="simulate">
        {{ simulating ? 'Simulating' : 'Simulate' }}
      </VBtn>
      <span v-if="run" role="status">
        {{
          run.meanRounds === null
            ? `${count(run.alarms, 'alarm')} in ${run.rounds.toLocaleString('en')} rounds`
            : `${whole(run.meanRounds)} ± ${whole(run.halfWidth ?? 0)} rounds, over ${whole(run.alarms)} alarms`
        }}</span
      >
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
