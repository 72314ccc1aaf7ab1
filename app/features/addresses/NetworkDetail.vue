<script setup lang="ts">
import {
  formatPrefix6,
  grown,
  lengthFor,
  parsePrefix4,
  parsePrefix6,
  sizeOf,
  subnet6For,
} from '#core/address'
import { discoveryOption, leaseTimers, offeredLoad, poolFor } from '#core/dhcp'
import { MOST_BLOCKED, poolSize } from '#core/findings'
import type { Network } from '#core/schema'
import { orNull } from '#core/util'
import { networkFields, type NetworkPart, type PutNetwork } from './network-fields'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import TypedFields from '~/ui/TypedFields.vue'
import { leaseText } from '~/wording/lease'

const PoolChart = defineAsyncComponent(() => import('./PoolChart.vue'))

/** One network's DHCP, clients and IPv6. */
const props = defineProps<{ network: Network; part: NetworkPart }>()
const plan = usePlan()
const session = useSession()

const put: PutNetwork = (words, recipe) =>
  plan.edit(
    `${props.network.name}: ${words}`,
    `detail ${props.network.id} ${words.split(' ')[0]}`,
    (draft) => {
      const network = draft.networks.find((n) => n.id === props.network.id)
      if (network) recipe(network)
    },
  )
const fields = computed(() => networkFields(props.part, props.network, put))

const size = computed(() => poolSize(props.network))
const timers = computed(() => leaseTimers(props.network.leaseS))
const controller = computed(() => props.network.options.controller)
const option = computed({
  get: () => controller.value?.option ?? 143,
  set: (value: 43 | 138 | 143) =>
    put(`option ${value}`, ({ options }) => {
      if (options.controller) options.controller.option = value
    }),
})
const wire = computed(
  () => controller.value && orNull(discoveryOption(controller.value.option, controller.value.address)),
)
const wanted = computed(() => grown(props.network.expected, props.network.growthPct))
const roomLeft = computed(() => {
  const home = orNull(parsePrefix4(props.network.subnet))
  return home ? sizeOf(home.length) - 3 - wanted.value : 0
})
const pool = computed(() => {
  const { arrivalsPerH, stayH, leaseS } = props.network
  return arrivalsPerH === null || stayH === null
    ? null
    : poolFor(offeredLoad(arrivalsPerH, stayH, leaseS / 3600), MOST_BLOCKED)
})
const mode6 = computed({
  get: () => props.network.mode6,
  set: (value: Network['mode6']) => put(`IPv6 ${value}`, (draft) => void (draft.mode6 = value)),
})
const pinned = computed({
  get: () => props.network.pinned,
  set: (value: boolean) => put(value ? 'pinned' : 'free to move', (draft) => void (draft.pinned = value)),
})
const proposed6 = computed(() => {
  const site = plan.draft?.site.prefix6 ? orNull(parsePrefix6(plan.draft.site.prefix6)) : null
  const made = site && subnet6For(site, props.network.vlan)
  return made ? formatPrefix6(made) : null
})
const MODES6 = [
  { value: 'off', title: 'off' },
  { value: 'slaac', title: 'SLAAC: hosts form their own' },
  { value: 'stateless', title: 'SLAAC, and DHCPv6 for name servers' },
  { value: 'stateful', title: 'DHCPv6 gives the addresses' },
]
</script>

<template>
  <div class="detail">
    <div class="fields">
      <TypedFields :fields="fields" :owner="`${network.id} ${part}`" />
      <VSelect
        v-if="part === 'dhcp' && controller"
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
        :items="MODES6"
      />
      <VSwitch
        v-if="part === 'clients'"
        v-model="pinned"
        :disabled="!session.edits"
        label="Chosen by hand: no proposal moves it"
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
.wire {
  overflow-wrap: anywhere;
}
@media (max-width: 899px) {
  .fields {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
