<script setup lang="ts">
import { isDomain } from '#core/format'
import {
  formatIpv4,
  lengthFor,
  parseIpv4,
  parsePrefix4,
  parsePrefix6,
  parseRange4,
  sizeOf,
  subnet6For,
  formatPrefix6,
  grown,
} from '#core/address'
import { orNull, type Problem } from '#core/util'
import { discoveryOption, leaseTimers, poolFor, offeredLoad } from '#core/dhcp'
import { MOST_BLOCKED, poolSize } from '#core/findings'
import type { Network } from '#core/schema'
import PoolChart from './PoolChart.vue'
import { reasons } from '~/ui/columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { leaseText } from '~/wording/lease'
import { reasonOf } from '~/wording/problems'

/**
 * One network's DHCP, clients and IPv6: each field is checked at each keystroke, and laid where it is right.
 */
const props = defineProps<{ network: Network; part: 'dhcp' | 'clients' | 'ipv6' }>()
const plan = usePlan()
const session = useSession()
type NetworkDraft = PlanDraft['networks'][number]

const put = (words: string, recipe: (n: NetworkDraft) => void) =>
  plan.edit(
    `${props.network.name}: ${words}`,
    `detail ${props.network.id} ${words.split(' ')[0]}`,
    (draft) => {
      const network = draft.networks.find((n) => n.id === props.network.id)
      if (network) recipe(network)
    },
  )

interface Field {
  readonly key: string
  readonly name: string
  readonly get: () => string
  readonly check: (text: string) => readonly Problem[]
  readonly set: (n: NetworkDraft, text: string) => void
  readonly hint?: string
  readonly mono?: boolean
}
const isNumber =
  (least: number, most: number, whole = false) =>
  (text: string): readonly Problem[] => {
    const value = Number(text)
    return text === '' ||
      (Number.isFinite(value) && value >= least && value <= most && (!whole || Number.isInteger(value)))
      ? []
      : [{ code: 'not-in-range', place: '', values: { text, least, most } }]
  }
const list = (text: string) => text.split(/[\s,;]+/).filter((t) => t !== '')
const eachIp = (text: string) => list(text).flatMap((t) => reasons(parseIpv4(t)))
const ranges = (text: string) =>
  text
    .split(/[,;\n]+/)
    .map((t) => t.trim())
    .filter((t) => t !== '')
const home = computed(() => orNull(parsePrefix4(props.network.subnet)) ?? undefined)
const ref = computed(() => props.network)

const FIELDS: Readonly<Record<'dhcp' | 'clients' | 'ipv6', readonly Field[]>> = {
  dhcp: [
    {
      key: 'relayTo',
      name: 'Relay to',
      mono: true,
      get: () => ref.value.relayTo ?? '',
      check: (t) => (t === '' ? [] : reasons(parseIpv4(t))),
      set: (d, t) => void (d.relayTo = t === '' ? null : t),
      hint: 'only for relay: a fixed address of this plan',
    },
    {
      key: 'lease',
      name: 'Lease, h',
      mono: true,
      get: () => String(ref.value.leaseS / 3600),
      check: (text) =>
        text === ''
          ? [{ code: 'not-in-range', place: '', values: { text: text, least: 0.1, most: 8760 } }]
          : isNumber(0.1, 8760)(text),
      set: (d, t) => void (d.leaseS = Math.round(Number(t) * 3600)),
    },
    {
      key: 'exclusions',
      name: 'Not handed out',
      mono: true,
      get: () => ref.value.exclusions.map((e) => `${e.from}-${e.to}`).join(', '),
      check: (t) => ranges(t).flatMap((r) => reasons(parseRange4(r, '', home.value))),
      set: (draft, text) =>
        void (draft.exclusions = ranges(text).flatMap((range) => {
          const read = orNull(parseRange4(range, '', home.value))
          return read ? [{ from: formatIpv4(read.from), to: formatIpv4(read.to) }] : []
        })),
      hint: 'ranges inside the pool, as .120-.129',
    },
    {
      key: 'dns',
      name: 'Name servers',
      mono: true,
      get: () => ref.value.options.dns.join(' '),
      check: eachIp,
      set: (d, t) => void (d.options.dns = list(t)),
      hint: 'empty: the gateway itself',
    },
    {
      key: 'ntp',
      name: 'Time servers',
      mono: true,
      get: () => ref.value.options.ntp.join(' '),
      check: eachIp,
      set: (d, t) => void (d.options.ntp = list(t)),
    },
    {
      key: 'domain',
      name: 'Domain',
      mono: true,
      get: () => ref.value.options.domain,
      check: (text) =>
        text === '' || isDomain(text) ? [] : [{ code: 'not-a-domain', place: '', values: { text: text } }],
      set: (d, t) => void (d.options.domain = t),
    },
    {
      key: 'controller',
      name: 'Controller',
      mono: true,
      get: () => ref.value.options.controller?.address ?? '',
      check: (t) => (t === '' ? [] : reasons(parseIpv4(t))),
      set: (draft, text) =>
        void (draft.options.controller =
          text === '' ? null : { option: draft.options.controller?.option ?? 143, address: text }),
      hint: 'told to devices that look for one',
    },
  ],
  clients: [
    {
      key: 'growth',
      name: 'Growth, %',
      mono: true,
      get: () => String(ref.value.growthPct),
      check: isNumber(0, 1000),
      set: (d, t) => void (d.growthPct = Number(t) || 0),
    },
    {
      key: 'arrivals',
      name: 'Arrive in a busy hour',
      mono: true,
      get: () => String(ref.value.arrivalsPerH ?? ''),
      check: isNumber(0, 1_000_000),
      set: (d, t) => void (d.arrivalsPerH = t === '' ? null : Number(t)),
    },
    {
      key: 'stay',
      name: 'Stay, h',
      mono: true,
      get: () => String(ref.value.stayH ?? ''),
      check: isNumber(0, 8784),
      set: (d, t) => void (d.stayH = t === '' ? null : Number(t)),
    },
  ],
  ipv6: [
    {
      key: 'prefix6',
      name: 'IPv6 prefix',
      mono: true,
      get: () => ref.value.prefix6 ?? '',
      check: (t) => (t === '' ? [] : reasons(parsePrefix6(t))),
      set: (d, t) => void (d.prefix6 = t === '' ? null : t),
      hint: 'usually a /64',
    },
  ],
}
const typed = reactive<Record<string, string>>({})
const problems = reactive<Record<string, readonly Problem[]>>({})
watch(
  () => [props.network.id, props.part],
  () => {
    for (const key of Object.keys(typed)) {
      delete typed[key]
      delete problems[key]
    }
  },
)
const shown = (field: Field) => typed[field.key] ?? field.get()
function type(field: Field, text: string): void {
  typed[field.key] = text
  problems[field.key] = field.check(text.trim())
  if (problems[field.key]?.length === 0) put(`${field.key} ${text.trim()}`, (d) => field.set(d, text.trim()))
}
function leave(field: Field): void {
  if (problems[field.key]?.length) problems[field.key] = []
  delete typed[field.key]
}

const size = computed(() => poolSize(ref.value))
const timers = computed(() => leaseTimers(ref.value.leaseS))
const option = computed({
  get: () => ref.value.options.controller?.option ?? 143,
  set: (value: 43 | 138 | 143) =>
    put(
      `option ${value}`,
      (d) => void (d.options.controller = d.options.controller && { ...d.options.controller, option: value }),
    ),
})
const wire = computed(() =>
  ref.value.options.controller
    ? orNull(discoveryOption(ref.value.options.controller.option, ref.value.options.controller.address))
    : null,
)
const wanted = computed(() => grown(ref.value.expected, ref.value.growthPct))
const roomLeft = computed(() => (home.value ? sizeOf(home.value.length) - 3 - wanted.value : 0))
const pool = computed(() =>
  ref.value.arrivalsPerH === null || ref.value.stayH === null
    ? null
    : poolFor(offeredLoad(ref.value.arrivalsPerH, ref.value.stayH, ref.value.leaseS / 3600), MOST_BLOCKED),
)
const mode6 = computed({
  get: () => ref.value.mode6,
  set: (value: Network['mode6']) => put(`IPv6 ${value}`, (d) => void (d.mode6 = value)),
})
const pinned = computed({
  get: () => ref.value.pinned,
  set: (value: boolean) => put(value ? 'pinned' : 'free to move', (d) => void (d.pinned = value)),
})
const proposed6 = computed(() => {
  const site = plan.draft?.site.prefix6 ? orNull(parsePrefix6(plan.draft.site.prefix6)) : null
  const made = site && subnet6For(site, ref.value.vlan)
  return made ? formatPrefix6(made) : null
})
const MODES6 = {
  off: 'off',
  slaac: 'SLAAC: hosts form their own',
  stateless: 'SLAAC, and DHCPv6 for name servers',
  stateful: 'DHCPv6 gives the addresses',
} as const
</script>

<template>
  <div class="detail">
    <div class="fields">
      <VTextField
        v-for="field in FIELDS[part]"
        :key="field.key"
        :label="field.name"
        :class="{ mono: field.mono }"
        :model-value="shown(field)"
        :readonly="!session.edits"
        spellcheck="false"
        :error-messages="(problems[field.key] ?? []).map(reasonOf)"
        :hint="field.hint"
        persistent-hint
        @input="type(field, ($event.target as HTMLInputElement).value)"
        @blur="leave(field)"
      />
      <VSelect
        v-if="part === 'dhcp' && network.options.controller"
        label="By option"
        v-model="option"
        :disabled="!session.edits"
        :items="[
          { value: 143, title: '143, a URI (RFC 8572)' },
          { value: 138, title: '138, an address (RFC 5417)' },
          { value: 43, title: '43, vendor\'s own' },
        ]"
      />
      <VSelect
        v-if="part === 'ipv6'"
        label="Hosts"
        v-model="mode6"
        :disabled="!session.edits"
        :items="Object.entries(MODES6).map(([value, title]) => ({ value, title }))"
      />
      <VCheckbox
        v-if="part === 'clients'"
        v-model="pinned"
        :disabled="!session.edits"
        label="chosen by hand: no proposal moves it"
      />
    </div>
    <template v-if="part === 'dhcp'">
      <p class="small soft">
        Lease {{ leaseText(network.leaseS) }}: renewed after {{ leaseText(timers.t1S) }} (T1), asked of any
        server after {{ leaseText(timers.t2S) }} (T2), RFC 2131. {{ size }} addresses are handed out.<template
          v-if="wire"
        >
          On the wire, option {{ option }}: <span class="mono wire">{{ wire }}</span></template
        >
      </p>
    </template>
    <template v-else-if="part === 'clients'">
      <p class="small soft">
        {{ network.expected }} now, {{ wanted }} later: a /{{ lengthFor(wanted) }} of
        {{ sizeOf(lengthFor(wanted)) }} addresses would do, and the subnet leaves {{ roomLeft }} for more.
        {{ size }} are in the pool.<template v-if="pool !== null">
          For 1 in 100 at this lease: {{ pool }}.</template
        >
      </p>
      <PoolChart
        v-if="network.arrivalsPerH !== null && network.stayH !== null && network.pool"
        :arrivals-per-h="network.arrivalsPerH"
        :stay-h="network.stayH"
        :lease-s="network.leaseS"
        :size="size"
      />
      <p v-else class="small soft">
        Say how many arrive in a busy hour and how long they stay, and the picture shows how often the pool is
        empty.
      </p>
    </template>
    <template v-else>
      <p class="small soft">
        Site: <span class="mono">{{ plan.draft?.site.prefix6 ?? 'no prefix' }}</span>.
        <VBtn
          v-if="session.edits && proposed6 && proposed6 !== network.prefix6"
          @click="put(`prefix6 ${proposed6}`, (d) => void (d.prefix6 = proposed6))"
        >
          Use {{ proposed6 }}
        </VBtn>
      </p>
    </template>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 12px;
  padding-top: 6px;
  align-items: start;
}
.detail p {
  margin-top: 8px;
}
.tick {
  display: flex;
  gap: 6px;
  align-items: center;
  align-self: end;
  padding-bottom: 6px;
}
.wire {
  overflow-wrap: anywhere;
}
@media (max-width: 899px) {
  .fields {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
