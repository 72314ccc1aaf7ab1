<script setup lang="ts">
import { endpointOf, peerConf, wireguardConf } from '#core/export'
import type { Peer, Tunnel } from '#core/schema'
import IpsecParameters from './IpsecParameters.vue'
import CodeEditor from '~/ui/CodeEditor.vue'
import DayField from '~/ui/DayField.vue'
import { useOpened } from '~/ui/opened'
import TabBar from '~/ui/TabBar.vue'
import SheetTable from '~/ui/SheetTable.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { usePeerColumns, useTunnelColumns } from './columns'
import { OVERLAP_DAYS, useTunnelKeys } from './tunnel-keys'
import { isOnSide, useTunnelEdits, useTunnelSelection } from './tunnel-selection'
import { useActions } from '~/shell/actions'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { timeText } from '~/wording/adoption'
import { count } from '~/wording/findings'
import { sentenceOf } from '~/wording/problems'

const ImportTunnel = defineAsyncComponent(() => import('./ImportTunnel.vue'))

/** Tunnels and who may speak in them; what each end must be told; keys, shown only when asked for. */
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()

const selection = useTunnelSelection()
const { tunnels, chosen, tunnel, chosenPeer, peer, part, side, focusAt, peerAt } = selection
const findings = computed(() =>
  (analysis.analysis?.findings ?? []).filter((f) => f.sheet === 'tunnels' && f.severity !== 'note'),
)
const troubled = (row: Tunnel, key: string) =>
  findings.value.some((f) => f.place[1] === row.id && f.place[2] === key)
const peerTroubled = (row: Peer, key: string) =>
  findings.value.some((f) => f.place[3] === row.id && (f.place[4] ?? 'name') === key)
const sides = [
  { key: 'inside', name: 'Addresses and keys' },
  { key: 'outside', name: 'How they meet' },
]
const [allOfTunnels, allOfPeers] = [useTunnelColumns(), usePeerColumns(() => tunnel.value?.id ?? '')]
const tunnelColumns = computed(() => allOfTunnels.filter(({ key }) => isOnSide(key, side.value)))
const peerColumns = computed(() => allOfPeers.filter(({ key }) => isOnSide(key, side.value)))

const hasGateway = computed(() => plan.draft?.devices.some((d) => d.kind === 'gateway') ?? false)
const reading = ref(false)
const wasReading = useOpened(reading)
const parts = computed(() => [
  { key: 'wireguard', name: 'WireGuard', tally: String(tunnels.value.length) },
  { key: 'ipsec', name: 'IPsec', tally: String(plan.draft?.ipsec.length ?? 0) },
])

// What an end must be told: without its private key here, with it only when it is asked for.
const owner = computed(() => peer.value ?? tunnel.value)
const file = computed(() => {
  const [home, who] = [tunnel.value, peer.value]
  if (!home || !plan.draft) return ''
  return who
    ? peerConf(home, who, who.endpoint === null ? endpointOf(plan.draft, home) : null)
    : wireguardConf(home)
})
const {
  problems,
  typedKey,
  key,
  nextKey,
  readKeys,
  daysLeft,
  makeKeys,
  changeKey,
  shown,
  picture,
  show,
  setUntil,
  finish,
  giveUp,
} = useTunnelKeys(peer, owner)
const { begin, join, remove } = useTunnelEdits(selection, (why) => (problems.value = why))
useActions({
  'add-tunnel': () => hasGateway.value && begin(),
  'import-tunnel': () => (reading.value = hasGateway.value),
})
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Tunnels</h1>
      <span class="tools">
        <UndoRedo />
        <template v-if="session.edits && part === 'wireguard'"
          ><VBtn :disabled="!hasGateway" @click="begin">Add a tunnel</VBtn
          ><VBtn :disabled="!hasGateway" @click="reading = true"> Import a file</VBtn
          ><VBtn :disabled="!tunnel" @click="join">Add a peer</VBtn></template
        >
      </span>
      <p>
        {{ count(tunnels.length, 'WireGuard tunnel') }}. What a peer may reach is two things: what its own
        file allows, and a rule. Test a tunnel from outside; from inside it proves nothing.
      </p>
    </header>
    <TabBar v-model="part" :parts="parts" label="Kinds of tunnels" />
    <IpsecParameters v-if="part === 'ipsec'" />
    <template v-else>
      <TabBar v-model="side" :parts="sides" label="What is shown of tunnels" />
      <SheetTable
        :columns="tunnelColumns"
        :rows="tunnels"
        label="Tunnels"
        :name-of="(t) => t.name"
        :readonly="!session.edits"
        :chosen="tunnel?.id ?? ''"
        :trouble="troubled"
        :focus-at="focusAt"
        @choose="(id) => ((chosen = id), (chosenPeer = ''))"
      >
        <template #empty>No tunnel yet.</template>
      </SheetTable>
      <template v-if="tunnel">
        <h2 class="head">In {{ tunnel.name }}</h2>
        <SheetTable
          :columns="peerColumns"
          :rows="tunnel.peers"
          label="Peers"
          :name-of="(p) => p.name"
          :readonly="!session.edits"
          :chosen="chosenPeer"
          :trouble="peerTroubled"
          :focus-at="peerAt"
          @choose="(id) => (chosenPeer = id)"
        >
          <template #empty>Nobody yet. Each person or device is a peer of its own.</template>
        </SheetTable>
        <div class="row">
          <h2>{{ peer ? `Configuration file of ${peer.name}` : 'Configuration file of this gateway' }}</h2>
          <span v-if="session.edits" class="tools">
            <VBtn v-if="!peer?.next" @click="makeKeys">
              {{ key ? 'Make new keys' : 'Make keys' }}
            </VBtn>
            <VBtn v-if="key" color="error" @click="show(false)"> Show its file with the private key </VBtn>
            <VBtn @click="remove">
              Remove<span class="sr"> {{ (peer ?? tunnel).name }}</span>
            </VBtn>
          </span>
        </div>
        <p class="small soft">
          <template v-if="key"
            >Keys made {{ timeText(key.madeAt) }} by {{ key.madeBy }};
            {{
              key.shownAt ? `shown last ${timeText(key.shownAt)} to ${key.shownBy}` : 'never shown'
            }}.</template
          >
          <template v-else
            >No private key is kept here: type the public key in, or make a pair. One peer, one key.</template
          >
        </p>
        <div v-if="peer && !peer.next && peer.publicKey !== null && session.edits" class="small change">
          <VBtn @click="changeKey"> Change its key, both let in for {{ OVERLAP_DAYS }} days </VBtn>
          to a new pair, or to
          <VTextField
            v-model="typedKey"
            class="mono typed"
            label="Public key its owner made"
            placeholder="44 characters"
          />
        </div>
        <p v-else-if="!peer && key && session.edits && tunnel.peers.length > 0" class="small soft">
          A gateway has one key at a time: with a new one every peer needs its new file at that moment. To
          change peer by peer, add a second tunnel beside this one.
        </p>
        <div v-if="peer?.next" class="small changing" :class="{ late: daysLeft < 0 }">
          <b>Two keys.</b> <span class="mono">{{ peer.next.publicKey.slice(0, 8) }}…</span> is let in beside
          the old one.
          <DayField
            class="until"
            label="Both keys until"
            :value="peer.next.until"
            :readonly="!session.edits"
            @set="setUntil"
          />
          <span>{{
            daysLeft < 0
              ? `${count(-daysLeft, 'day')} ago. An old key that stays is a door that stays.`
              : daysLeft === 0
                ? 'Until today.'
                : `For ${count(daysLeft, 'day')} from now.`
          }}</span>{{ ' ' }}
          <span class="soft"
            >{{
              nextKey
                ? nextKey.shownAt
                  ? `Its new file was shown ${timeText(nextKey.shownAt)} to ${nextKey.shownBy}.`
                  : 'Its new file has not been shown yet.'
                : 'Its private half is with its owner.'
            }}
            Load the gateway's file and run its key script until you finish.</span
          >
          <span v-if="session.edits" class="tools">
            <VBtn v-if="nextKey" color="error" @click="show(true)">
              Show its new file with the private key
            </VBtn>
            <VBtn @click="finish">Finish: remove the old key</VBtn>
            <VBtn @click="giveUp">Discard the new key</VBtn>
          </span>
        </div>
        <p v-for="(p, i) in problems" :key="i" class="wrong-words" role="alert">{{ sentenceOf(p) }}</p>
        <div v-if="shown" class="shown">
          <CodeEditor
            :model-value="shown"
            label="Its file with the private key"
            grammar="settings"
            readonly
          />
          <!-- eslint-disable-next-line vue/no-v-html -- made here from the text beside it -->
          <div v-if="picture" class="qr" role="img" aria-label="The file as a QR code" v-html="picture" />
          <VBtn variant="flat" @click="shown = picture = ''">Hide it</VBtn>
        </div>
        <CodeEditor v-else :model-value="file" label="Its file" grammar="settings" readonly />
      </template>
    </template>
    <ImportTunnel
      v-if="session.edits && wasReading"
      v-model="reading"
      @made="(id) => ((chosen = id), (chosenPeer = ''), readKeys())"
    />
  </section>
</template>

<style scoped>
.changing .until {
  width: 170px;
  margin: 4px 0;
}
.change {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  margin-top: 6px;
}
.change .typed {
  flex: 1 1 260px;
}
.head {
  margin: 12px 0 6px;
}
.row {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  margin-top: 12px;
  flex-wrap: wrap;
}
.row .tools {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
pre {
  margin: 6px 0 0;
  padding: 8px 12px;
  background: var(--panel);
  border: 1px solid var(--line);
  font-size: 13px;
  line-height: 18px;
  overflow-x: auto;
}
.changing {
  margin-top: 6px;
  border-left: 3px solid var(--deep);
  padding-left: 10px;
}
.changing.late {
  border-color: var(--magenta);
}
.changing .tools {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  margin-top: 4px;
}
.typed {
  width: 240px;
  display: inline-block;
  padding: 1px 6px;
}
.shown {
  display: flex;
  gap: 14px;
  align-items: flex-start;
  flex-wrap: wrap;
}
.shown pre {
  border-color: var(--magenta);
}
.qr {
  width: 190px;
  height: 190px;
  background: #fff;
}
.qr :deep(svg) {
  width: 100%;
  height: 100%;
}
</style>
