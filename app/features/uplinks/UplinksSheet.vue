<script setup lang="ts">
import { groupBy } from '#core/util'
import {
  falseAlarmsPerYear,
  fitProbe,
  hoursToCap,
  jointAvailability,
  minutesWithout,
  monthCost,
  outage,
  playFailure,
  recovery,
  roundLoss,
  roundsToRun,
  SHARED_SHARE,
  sharedFates,
  type AlarmRun,
  type Played,
} from '#core/failover'
import {
  DARK,
  freshId,
  uplinkGroup,
  uplinksInOrder,
  nextUplink,
  uplinkShare,
  signalOf,
  type Intent,
  type Uplink,
} from '#core/model'
import { formatServices, isNothing } from '#core/filter'
import type { InsideCalls, IntentLoss } from '#core/reachability'
import OutageStrip from './OutageStrip.vue'
import TabBar from '~/ui/TabBar.vue'
import SheetTable from '~/ui/SheetTable.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { useForwardColumns, usePolicyRouteColumns, useProbeColumns, useStandbyColumns } from './columns'
import { useCopy } from '~/ui/copy'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { count, wordsOf } from '~/wording/findings'
import { stopWords } from '~/wording/reach'

/** The lines in their order, what a failure of each costs in time, and who takes which. */
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const site = useSite()
const { place } = usePointer()

const lines = computed(() => (plan.draft ? uplinksInOrder(plan.draft) : []))
const chosen = ref('')
const line = computed(() => lines.value.find((u) => u.id === chosen.value) ?? lines.value[0])
const backup = computed(() => (line.value ? nextUplink(lines.value, line.value) : undefined))
const sharing = computed(() => (lines.value[0] ? uplinkGroup(lines.value, lines.value[0]) : []))
const waits = (u: Uplink) => u.priority !== lines.value[0]?.priority
/** What a line takes when it is its group's turn; nothing where it shares with nobody. */
const shareWords = (uplink: Uplink) =>
  uplinkGroup(lines.value, uplink).length > 1
    ? `${Math.round(uplinkShare(lines.value, uplink))} % of new flows`
    : ''
const findings = computed(() => (analysis.analysis?.findings ?? []).filter((f) => f.sheet === 'uplinks'))
const trouble = (row: { readonly id: string }, key: string) =>
  findings.value.some(
    (finding) =>
      finding.severity !== 'note' &&
      finding.place[1] === row.id &&
      (finding.place[2] === key || (finding.place[2] === 'probe' && key === 'targets')),
  )
watch(
  place,
  (path) => {
    if (path[0] === 'uplinks' && path[1]) chosen.value = path[1]
  },
  { immediate: true },
)

const KINDS = { pppoe: 'PPPoE', dhcp: 'DHCP', static: 'static' } as const
const SIGNALS = {
  strong: 'strong signal',
  good: 'good signal',
  fair: 'fair signal',
  weak: 'weak signal',
} as const
function cellularWords(uplink: Uplink): string {
  const { cellular } = uplink.facts
  if (!cellular) return ''
  const [signal, currency] = [signalOf(cellular), plan.draft?.site.currency ?? '']
  const aDay = uplink.usualGbPerDay ?? lines.value[0]?.usualGbPerDay ?? null
  const month = aDay === null ? null : monthCost(uplink, aDay * DAYS)
  return [
    signal === null
      ? 'signal not known'
      : `${SIGNALS[signal]}${cellular.rsrpDbm === null ? '' : ` (${cellular.rsrpDbm} dBm)`}`,
    cellular.pricePerMonth === null ? '' : `${cellular.pricePerMonth} ${currency} a month`,
    month === null || month === cellular.pricePerMonth
      ? ''
      : `${Math.round(month).toLocaleString('en')} ${currency} if it carried everything for ${DAYS} days`,
  ]
    .filter((t) => t !== '')
    .join('; ')
}
/** A month, for prices. */
const DAYS = 30
const facts = (uplink: Uplink) => {
  const hours = hoursToCap(uplink, uplink.usualGbPerDay ?? lines.value[0]?.usualGbPerDay ?? null)
  return [
    ['Kind', KINDS[uplink.kind]],
    ['Tag, priority', uplink.tag === null ? 'none' : `${uplink.tag}, ${uplink.facts.pcp ?? '?'}`],
    ['Speed', `${uplink.downMbps} / ${uplink.upMbps} Mb/s`],
    [
      'Seen from outside',
      uplink.outside === 'own' ? 'an address of its own' : 'shared by the provider: nobody can dial in',
    ],
    ...(uplink.facts.cellular ? [['Cellular', cellularWords(uplink)]] : []),
    ...(hours === null
      ? []
      : [['Allowance', `${uplink.facts.capGb} GB: ${Math.round(hours)} h at usual use`]]),
  ] as const
}

/** The order of priority, by drag or by its buttons. */
function reorder(id: string, to: number): void {
  const order = lines.value.filter((u) => u.id !== id)
  const moved = lines.value.find((u) => u.id === id)
  if (!moved) return
  order.splice(to, 0, moved)
  plan.edit(`${moved.name} is now number ${to + 1}`, '', (draft) => {
    for (const uplink of draft.uplinks) uplink.priority = order.findIndex((u) => u.id === uplink.id) + 1
  })
}
const dragged = ref('')
function drop(to: number): void {
  if (dragged.value !== '') reorder(dragged.value, to)
  dragged.value = ''
}

const over = computed(() =>
  line.value?.probe && backup.value ? outage(line.value.probe, backup.value) : null,
)
const alarms = computed(() =>
  line.value?.probe ? falseAlarmsPerYear(line.value.probe, line.value.lossPct) : 0,
)
const rate = (count: number) => {
  if (count === 0) return 'none'
  if (count < 0.1) return `one in ${Math.round(1 / count).toLocaleString('en')} years`
  if (count < 10) return `${Math.round(count * 10) / 10} a year`
  return `${Math.round(count).toLocaleString('en')} a year`
}
const joint = computed(() => {
  const [first, second] = [line.value, backup.value]
  if (!first || !second || first.availablePct === null || second.availablePct === null) return ''
  const shared = sharedFates(first, second)
  const pct = jointAvailability(first.availablePct, second.availablePct, shared.length > 0)
  return (
    `One of the two works ${pct.toFixed(4)} % of the year: ` +
    `${Math.round(minutesWithout(pct)).toLocaleString('en')} min without ` +
    `any${shared.length > 0 ? `, taking it that ${SHARED_SHARE * 100} % of failures strike what both lean on` : ''}.`
  )
})

// The two steps of a failure, from the engine: before anybody notices, and on the other line.
const steps = shallowRef<{
  readonly dark: readonly IntentLoss[]
  readonly over: readonly IntentLoss[]
} | null>(null)
let asked = 0
watch(
  [() => line.value?.id, () => analysis.analysis?.grid],
  async ([id, grid]) => {
    const mine = ++asked
    if (!id || !grid) return
    const dark = await analysis.storm([DARK + id], true)
    const without = await analysis.storm([id])
    if (mine === asked && dark && without) steps.value = { dark, over: without }
  },
  { immediate: true },
)
const who = computed(() =>
  (plan.draft?.intents ?? []).flatMap((intent) => {
    const lost = (list: readonly IntentLoss[]) => list.find((l) => l.intentId === intent.id)
    const now = steps.value
    if (!now || (!lost(now.dark) && !lost(now.over))) return []
    return [
      {
        intent,
        before: lost(now.dark) ? 'down' : 'works',
        after: lost(now.over) ? 'down' : 'works',
        must: intent.survives.includes(line.value?.id ?? ''),
      },
    ]
  }),
)

/** Why an intent is down on the other line: where its flow ends there. */
const reasons = shallowRef<ReadonlyMap<string, string>>(new Map())
watch(steps, async (now) => {
  const id = line.value?.id
  const found = new Map<string, string>()
  for (const lost of now?.over ?? []) {
    const end = lost.example && id ? (await analysis.walk(lost.example, false, [id]))?.lines.at(-1) : null
    if (end?.kind === 'stopped') found.set(lost.intentId, stopWords(end.code))
  }
  if (steps.value === now) reasons.value = found
})
function backText(intent: Intent): string {
  const [first, second] = [line.value, backup.value]
  if (!first?.probe || !second || !plan.draft) return 'when somebody notices'
  const { leastS, worstS, silent } = recovery(plan.draft, first.probe, second, intent)
  return `${leastS} to ${worstS} s${silent.length > 0 ? `, and once somebody here sends to ${silent.join(', ')}` : ''}`
}
/** The whole of it as sentences, for a mail or a handbook. */
const written = computed(() => {
  const uplink = line.value
  if (!uplink || who.value.length === 0) return ''
  return [
    `If ${uplink.name} dies:`,
    ...who.value.map((client) =>
      client.after === 'works'
        ? `- ${client.intent.note}: back after ${backText(client.intent)}.`
        : `- ${client.intent.note}: not before ${uplink.name} is ` +
          `back${reasons.value.has(client.intent.id) ? `, since ${reasons.value.get(client.intent.id)}` : ''}.`,
    ),
    ...findings.value
      .filter((f) => f.severity !== 'note')
      .map((f) => `To do: ${wordsOf(f).what} ${wordsOf(f).why}`),
  ].join('\n')
})
const { copied, copy } = useCopy(written)
// Playing one failure, as fast as one likes.
const played = shallowRef<readonly Played[]>([])
const nowS = ref<number | null>(null)
const speed = ref(20)
const strip = useTemplateRef<InstanceType<typeof OutageStrip>>('strip')
let seed = 1
let ticking = 0
function play(): void {
  const [first, second] = [line.value, backup.value]
  if (!first?.probe || !second) return
  cancelAnimationFrame(ticking)
  recorded.value = ''
  played.value = playFailure(first.probe, first, second, strip.value?.mendS ?? 120, seed++)
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
  () => [line.value?.id, line.value?.probe, backup.value?.id],
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
  site.proof?.tests.find((t) => t.kind === 'failover' && t.under === line.value?.id),
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
    value: `on ${backup.value?.name} after ${tenth(onto)}, back ${tenth(back)} after it was well`,
    note: `planned ${over.value?.leastS} to ${over.value?.worstS} s`,
  })
  recorded.value = kept ? 'Kept with the acceptance tests.' : 'It could not be kept.'
}
const seconds = (what: Played['what']) => played.value.find((p) => p.what === what)?.atS
const tenth = (n: number) => `${Math.round(n * 10) / 10} s`

const run = shallowRef<AlarmRun | null>(null)
const simulating = ref(false)
async function simulate(): Promise<void> {
  const uplink = line.value
  if (!uplink?.probe) return
  simulating.value = true
  run.value = await analysis.alarms(uplink.probe, uplink.lossPct, 20_261_125)
  simulating.value = false
}

// What the site wishes for, and the settings that keep it.
const wish = computed(() => ({
  outageS: plan.draft?.site.mostOutageS ?? null,
  alarms: plan.draft?.site.mostFalseAlarms ?? null,
}))
const fit = computed(() => {
  const [first, second] = [line.value, backup.value]
  if (!first?.probe || !second || (wish.value.outageS === null && wish.value.alarms === null)) return null
  return fitProbe(first.probe, second, first.lossPct, {
    outageS: wish.value.outageS ?? 86_400,
    alarms: wish.value.alarms ?? Number.POSITIVE_INFINITY,
  })
})
function setWish(key: 'mostOutageS' | 'mostFalseAlarms', event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim()
  const value = text === '' ? null : Number(text)
  if (value === null || (Number.isFinite(value) && value >= 0 && value <= 86_400))
    plan.edit(
      key === 'mostOutageS' ? 'longest outage wished' : 'false alarms wished',
      `wish ${key}`,
      (draft) => void (draft.site[key] = value),
    )
}
function setTold(event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim().slice(0, 80)
  plan.edit(
    text === '' ? 'nobody told when a line fails' : `told when a line fails: ${text}`,
    'told',
    (draft) => void (draft.site.toldTo = text),
  )
}
function useFit(): void {
  const fits = fit.value?.fits
  const id = line.value?.id
  if (fits)
    plan.edit(`${line.value?.name}: probe every ${fits.everyS} s, ${fits.misses} misses`, '', (draft) => {
      const probe = draft.uplinks.find((u) => u.id === id)?.probe
      if (probe) Object.assign(probe, { everyS: fits.everyS, timeoutS: fits.timeoutS, misses: fits.misses })
    })
}

const part = ref<'probes' | 'standby' | 'routes' | 'forwards'>('probes')
const parts = computed(() => [
  { key: 'probes', name: 'Probes' },
  { key: 'standby', name: 'Standby and fate' },
  { key: 'routes', name: 'Who takes which line', tally: String(plan.draft?.policyRoutes.length ?? 0) },
  { key: 'forwards', name: 'Port forwards', tally: String(plan.draft?.forwards.length ?? 0) },
])
watch(place, (path) => {
  if (path[0] === 'uplinks')
    part.value = ['fates', 'weight', 'priority'].includes(path[2] ?? '') ? 'standby' : 'probes'
})
const probeColumns = useProbeColumns()
const standbyColumns = useStandbyColumns()
const routeColumns = usePolicyRouteColumns()
const forwardColumns = useForwardColumns()
const gatewayId = computed(
  () => line.value?.deviceId ?? plan.draft?.devices.find((d) => d.kind === 'gateway')?.id ?? '',
)
function addRoute(): void {
  const [network, uplink] = [plan.draft?.networks[0], line.value]
  if (!network || !uplink) return
  plan.edit(
    'policy route added',
    '',
    (draft) =>
      void draft.policyRoutes.push({
        id: freshId(draft.policyRoutes, 'way'),
        deviceId: gatewayId.value,
        from: { kind: 'network', id: network.id },
        services: [],
        out: { kind: 'uplink', id: uplink.id },
        orElse: 'next',
        note: '',
      }),
  )
}
function addForward(): void {
  const [fixed, uplink] = [
    plan.draft?.networks.flatMap((n) => n.fixed).find((f) => f.deviceId !== null),
    line.value,
  ]
  if (!uplink) return
  plan.edit(
    'port forward added',
    '',
    (draft) =>
      void draft.forwards.push({
        id: freshId(draft.forwards, 'forward'),
        deviceId: gatewayId.value,
        uplinkId: uplink.id,
        proto: 'tcp',
        from: 8443,
        to: 8443,
        toAddress: fixed?.ip ?? '0.0.0.0',
        toPort: 443,
        hairpin: false,
        note: '',
      }),
  )
}
const remove = (list: 'policyRoutes' | 'forwards', id: string) =>
  plan.edit(
    list === 'forwards' ? 'port forward removed' : 'policy route removed',
    '',
    (draft) =>
      void draft[list].splice(
        draft[list].findIndex((x) => x.id === id),
        1,
      ),
  )
/** Who inside gets through by the outside address, forward by forward. */
const calls = shallowRef<readonly InsideCalls[]>([])
watch(
  [part, () => analysis.analysis?.grid],
  async () => {
    if (part.value === 'forwards') calls.value = await analysis.calls()
  },
  { immediate: true },
)
const callRows = computed(() =>
  (plan.draft?.forwards ?? []).map((forward) => ({
    forward,
    ...callWords(calls.value.filter((c) => c.forwardId === forward.id)),
  })),
)
/** Networks by what they get through to, and the others by what stops them. */
function callWords(list: readonly InsideCalls[]) {
  const names = (some: readonly InsideCalls[]) =>
    some.map((c) => plan.draft?.networks.find((n) => n.id === c.networkId)?.name ?? c.networkId).join(', ')
  const through = list.filter((c) => !isNothing(c.allPairs) || !isNothing(c.somePairs))
  const said = ({ allPairs, somePairs }: InsideCalls) =>
    [
      isNothing(allPairs) ? '' : formatServices(allPairs),
      isNothing(somePairs) ? '' : `some hosts ${formatServices(somePairs)}`,
    ]
      .filter((t) => t !== '')
      .join('; ')
  return {
    through: [...groupBy(through, said)].map(([words, some]) => ({ names: names(some), words })),
    stopped: [
      ...groupBy(
        list.filter((c) => !through.includes(c)),
        (c) => stopWords(c.stop ?? ''),
      ),
    ].map(([words, some]) => ({ names: names(some), words })),
  }
}
const focusAt = computed(() =>
  place.value[0] === 'uplinks'
    ? { row: place.value[1] ?? '', column: place.value[2] === 'probe' ? 'targets' : (place.value[2] ?? '') }
    : null,
)

const whole = (value: number): string => value.toLocaleString('en', { maximumFractionDigits: 0 })
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Uplinks</h1>
      <span class="tools"><UndoRedo /></span>
      <p>
        {{ count(lines.length, 'line') }}.
        {{
          sharing.length > 1
            ? `The first ${sharing.length} share what goes out, by weight.`
            : 'The first in the list carries the site; drag to change, or give two the same order to share.'
        }}
        Their facts stand in the Brief.
      </p>
    </header>
    <p v-if="lines.length === 0" class="soft">No line yet. Add one in the Brief.</p>
    <ol class="lines">
      <li
        v-for="(u, i) in lines"
        :key="u.id"
        :class="{ chosen: u.id === line?.id, dragged: u.id === dragged }"
        :draggable="session.edits"
        @dragstart="dragged = u.id"
        @dragend="dragged = ''"
        @dragover.prevent
        @drop.prevent="drop(i)"
      >
        <div class="head">
          <button type="button" class="plain pick" :aria-pressed="u.id === line?.id" @click="chosen = u.id">
            {{ i + 1 }} · {{ u.name }}<template v-if="shareWords(u)">, {{ shareWords(u) }}</template
            ><template v-if="waits(u)">, {{ u.standby }} standby</template>
          </button>
          <span v-if="session.edits && lines.length > 1">
            <button
              type="button"
              class="press"
              :disabled="i === 0"
              :aria-label="`${u.name} earlier`"
              @click="reorder(u.id, i - 1)"
            >
              earlier
            </button>
            <button
              type="button"
              class="press"
              :disabled="i === lines.length - 1"
              :aria-label="`${u.name} later`"
              @click="reorder(u.id, i + 1)"
            >
              later
            </button>
          </span>
        </div>
        <dl class="small">
          <div v-for="[what, value] in facts(u)" :key="what">
            <dt>{{ what }}</dt>
            <dd>{{ value }}</dd>
          </div>
        </dl>
      </li>
    </ol>
    <template v-if="line && backup">
      <div class="row">
        <h2>
          If {{ line.name }} dies<template v-if="shareWords(line)"
            >, with {{ shareWords(line) }} on it{{ waits(line) ? ' when it is its turn' : '' }}</template
          >
        </h2>
        <span v-if="line.probe" class="tools">
          <label class="small"
            >Play at
            <select v-model="speed" class="field">
              <option :value="1">1×</option>
              <option :value="5">5×</option>
              <option :value="20">20×</option>
              <option :value="100">100×</option>
            </select></label
          >
          <button type="button" class="press" @click="play">Play it</button>
        </span>
      </div>
      <p v-if="!line.probe" class="none">
        {{ line.name }} is not probed: when it fails beyond the modem, nothing changes over. Type whom to ask
        under Probes.
      </p>
      <template v-else>
        <OutageStrip
          ref="strip"
          :line="line"
          :probe="line.probe"
          :backup="backup"
          :played="played"
          :now-s="nowS"
        />
        <p v-if="played.length > 0 && nowS === null && over" class="small" role="status">
          Played: on {{ backup.name }} after <b class="mono">{{ tenth(seconds('carried') ?? 0) }}</b> (planned
          <span class="mono">{{ tenth(over.leastS) }}</span> to
          <span class="mono">{{ tenth(over.worstS) }}</span>), back
          <b class="mono">{{ tenth((seconds('back') ?? 0) - (seconds('mended') ?? 0)) }}</b> after it was
          well.
          <button
            v-if="session.works && failoverTest && recorded === ''"
            type="button"
            class="press"
            @click="recordPlayed"
          >
            Keep it as a proof record</button
          ><span v-if="recorded" class="soft">{{ recorded }}</span>
        </p>
        <p class="small">
          False alarms at {{ line.lossPct }} % loss: <b>{{ rate(alarms) }}</b>,
          {{
            roundsToRun(roundLoss(line.probe, line.lossPct), line.probe.misses).toLocaleString('en', {
              maximumFractionDigits: 0,
            })
          }}
          rounds apart.
          <button type="button" class="press" :disabled="simulating" @click="simulate">
            {{ simulating ? 'Simulating' : 'Simulate' }}
          </button>
          <span v-if="run" role="status">
            {{
              run.meanRounds === null
                ? `${count(run.alarms, 'alarm')} in ${run.rounds.toLocaleString('en')} rounds`
                : `${whole(run.meanRounds)} ± ${whole(run.halfWidth ?? 0)} rounds, over ${whole(run.alarms)} alarms`
            }}</span
          >
        </p>
        <p v-if="joint" class="small">{{ joint }}</p>
        <div class="wish small">
          <label
            >Change over within
            <input
              class="field mono"
              :value="wish.outageS ?? ''"
              :readonly="!session.edits"
              aria-label="Longest outage, s"
              inputmode="numeric"
              @change="setWish('mostOutageS', $event)"
            />
            s</label
          >
          <label
            >and at most
            <input
              class="field mono"
              :value="wish.alarms ?? ''"
              :readonly="!session.edits"
              aria-label="Most false alarms a year"
              inputmode="numeric"
              @change="setWish('mostFalseAlarms', $event)"
            />
            false alarms a year</label
          >
          <label
            >Told when a line fails
            <input
              class="field told"
              :value="plan.draft?.site.toldTo"
              :readonly="!session.edits"
              aria-label="Who is told when a line fails"
              placeholder="nobody"
              @change="setTold"
          /></label>
          <span v-if="fit?.fits"
            >: every {{ fit.fits.everyS }} s, {{ count(fit.fits.misses, 'miss', 'misses') }} keeps both.
            <button v-if="session.edits" type="button" class="press" @click="useFit">Use it</button></span
          >
          <span v-else-if="fit" class="wrong-words"
            >no usual setting keeps both{{
              fit.best
                ? `; the quietest in time has ${rate(fit.best.alarms)}`
                : ': the other line itself takes longer'
            }}.</span
          >
        </div>
      </template>
      <table v-if="who.length > 0" class="ruled who">
        <thead>
          <tr>
            <th>Who is struck</th>
            <th>Until it is noticed</th>
            <th>
              On {{ backup.name }}
              <button type="button" class="press copy" @click="copy">
                {{ copied ? 'Copied' : 'Copy in writing' }}
              </button>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="w in who" :key="w.intent.id" :class="{ trouble: w.must && w.after === 'down' }">
            <td>
              <b>{{ w.intent.note }}</b>
            </td>
            <td>{{ w.before }}</td>
            <td>
              <template v-if="w.after === 'down'"
                >down until {{ line.name }} is back<span v-if="reasons.has(w.intent.id)" class="soft"
                  >: {{ reasons.get(w.intent.id) }}</span
                ></template
              ><template v-else
                >works, after <span class="mono">{{ backText(w.intent) }}</span></template
              >
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <div class="under">
      <TabBar v-model="part" :parts="parts" label="Parts of Uplinks" />
      <button
        v-if="session.edits && part === 'routes' && lines.length > 0"
        type="button"
        class="press"
        @click="addRoute"
      >
        Add a choice
      </button>
      <button
        v-if="session.edits && part === 'forwards' && lines.length > 0"
        type="button"
        class="press"
        @click="addForward"
      >
        Add a forward
      </button>
    </div>
    <SheetTable
      v-if="part === 'probes'"
      :columns="probeColumns"
      :rows="lines"
      label="Probes"
      :name-of="(u) => u.name"
      :readonly="!session.edits"
      :chosen="line?.id ?? ''"
      :trouble="trouble"
      :focus-at="focusAt"
    />
    <SheetTable
      v-else-if="part === 'standby'"
      :columns="standbyColumns"
      :rows="lines"
      label="Standby and fate"
      :name-of="(u) => u.name"
      :readonly="!session.edits"
      :chosen="line?.id ?? ''"
      :trouble="trouble"
      :focus-at="focusAt"
    />
    <SheetTable
      v-else-if="part === 'routes'"
      :columns="[...routeColumns, { key: 'remove', head: '', get: () => '', width: '80px' }]"
      :rows="plan.draft.policyRoutes"
      label="Policy routes"
      :name-of="(r) => r.note || r.id"
      :readonly="!session.edits"
    >
      <template #remove="{ row }"
        ><button
          v-if="session.edits"
          type="button"
          class="plain link"
          @click="remove('policyRoutes', row.id)"
        >
          Remove<span class="sr"> {{ row.note || row.id }}</span>
        </button></template
      >
      <template #empty>Everybody takes the lines in their order.</template>
    </SheetTable>
    <SheetTable
      v-else
      :columns="[...forwardColumns, { key: 'remove', head: '', get: () => '', width: '80px' }]"
      :rows="plan.draft.forwards"
      label="Port forwards"
      :name-of="(f) => f.note || f.id"
      :readonly="!session.edits"
    >
      <template #remove="{ row }"
        ><button v-if="session.edits" type="button" class="plain link" @click="remove('forwards', row.id)">
          Remove<span class="sr"> {{ row.note || row.id }}</span>
        </button></template
      >
      <template #empty>None: nothing from outside is handed in.</template>
    </SheetTable>
    <table v-if="part === 'forwards' && calls.length > 0" class="ruled who">
      <thead>
        <tr>
          <th>Called from inside, by its outside address</th>
          <th>Who gets through</th>
          <th>Who does not, and why</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in callRows" :key="r.forward.id">
          <td>
            <b>{{ r.forward.note || `${r.forward.proto} ${r.forward.from}` }}</b>
          </td>
          <td>
            <template v-for="(w, i) in r.through" :key="w.words"
              ><template v-if="i > 0">; </template>{{ w.names }}:
              <span class="mono">{{ w.words }}</span></template
            ><span v-if="r.through.length === 0" class="soft">nobody</span>
          </td>
          <td class="soft">
            <template v-for="(w, i) in r.stopped" :key="w.words"
              ><template v-if="i > 0">; </template>{{ w.names }}: {{ w.words }}</template
            >
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.copy {
  float: right;
}
.who th {
  vertical-align: middle;
}
.who td {
  white-space: normal;
}
.lines {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 12px;
}
.lines li {
  background: var(--panel);
  border: 1px solid var(--line);
  padding: 8px 12px;
}
.lines li.chosen {
  border-color: var(--deep);
  box-shadow: inset 3px 0 0 var(--deep);
}
.lines li.dragged {
  opacity: 0.5;
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  align-items: baseline;
}
.head .press {
  margin-left: 4px;
  padding: 0 6px;
}
.pick {
  font-weight: 700;
  font-size: 15px;
}
.pick:hover {
  text-decoration: underline;
}
dl {
  margin: 4px 0 0;
}
dl div {
  display: grid;
  grid-template-columns: 118px 1fr;
  gap: 6px;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
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
.wish {
  margin-top: 4px;
}
.wish .field {
  width: 64px;
  display: inline-block;
  padding: 1px 6px;
}
.wish .field.told {
  width: 140px;
}
.none {
  color: var(--magenta);
}
.who {
  margin-top: 8px;
}
.who td {
  white-space: normal;
}
.under {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 14px 0 6px;
  flex-wrap: wrap;
}
.under :deep(.tabs) {
  margin: 0 auto 0 0;
  flex: none;
}
.link {
  color: var(--deep);
  text-decoration: underline;
}
@media (max-width: 899px) {
  .who .copy {
    white-space: normal;
    padding: 8px 6px;
  }
  .wish .field {
    width: 88px;
  }
  .head .press {
    padding: 8px 10px;
  }
}
</style>
