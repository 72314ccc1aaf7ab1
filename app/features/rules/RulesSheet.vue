<script setup lang="ts">
import GenerateRulesDialog from './GenerateRulesDialog.vue'
import GroupTables from './GroupTables.vue'
import IntentList from './IntentList.vue'
import IntentText from './IntentText.vue'
import RuleList from './RuleList.vue'
import TermTables from './TermTables.vue'
import { usePolicyEdits } from './policy-edits'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'

/** What must pass, and the ordered rules that see to it. */
const plan = usePlan()
const session = useSession()
const { place } = usePointer()

const gateways = computed(() => (plan.draft?.devices ?? []).filter((d) => d.kind === 'gateway'))
const gatewayId = ref('')
const gateway = computed(() => gateways.value.find((d) => d.id === gatewayId.value) ?? gateways.value[0])
const deviceId = computed(() => gateway.value?.id ?? '')
const policy = computed(() => plan.draft?.policies.find((p) => p.deviceId === deviceId.value))
const intents = computed(() => plan.draft?.intents ?? [])
const part = ref<'rules' | 'intents' | 'groups' | 'terms' | 'text'>('rules')
const parts = computed(() => [
  { key: 'rules', name: 'Rules', tally: String(policy.value?.rules.length ?? 0) },
  { key: 'intents', name: 'Intents', tally: String(intents.value.length) },
  { key: 'groups', name: 'Groups' },
  { key: 'terms', name: 'Services and times' },
  { key: 'text', name: 'As text' },
])
const chosen = ref('')
const asGrid = ref(true)
watch(
  place,
  ([list, id, inner, innerId]) => {
    if (list === 'policies') {
      part.value = inner === 'pairs' ? 'groups' : 'rules'
      gatewayId.value = id ?? ''
      chosen.value = innerId ?? ''
    }
    if (list === 'intents') [part.value, asGrid.value] = ['intents', false]
    if (list === 'groups') part.value = 'groups'
  },
  { immediate: true },
)
const edits = usePolicyEdits(() => deviceId.value)
const setDefault = (chain: 'forward' | 'input', event: Event) =>
  edits.setDefault(chain, (event.target as HTMLSelectElement).value as 'accept' | 'drop')
const generating = ref(false)
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Rules</h1>
      <span class="tools">
        <UndoRedo />
        <button
          v-if="session.edits"
          type="button"
          class="press"
          :disabled="!gateway || intents.length === 0"
          @click="generating = true"
        >
          Rules from intents
        </button>
      </span>
      <p v-if="policy" class="posture">
        <select v-if="gateways.length > 1" v-model="gatewayId" class="field" aria-label="Gateway">
          <option v-for="g in gateways" :key="g.id" :value="g.id">{{ g.name }}</option>
        </select>
        Default policy for what no rule names: through the gateway
        <select
          class="field"
          aria-label="Default through the gateway"
          :value="policy.forward"
          :disabled="!session.edits"
          @change="setDefault('forward', $event)"
        >
          <option>drop</option>
          <option>accept</option>
        </select>
        to the gateway itself
        <select
          class="field"
          aria-label="Default to the gateway itself"
          :value="policy.input"
          :disabled="!session.edits"
          @change="setDefault('input', $event)"
        >
          <option>drop</option>
          <option>accept</option>
        </select>
        Replies to allowed traffic are allowed.
      </p>
      <p v-else>No gateway, or none with rules yet.</p>
    </header>
    <div class="under">
      <TabBar v-model="part" :parts="parts" label="Parts of Rules" />
      <span id="rules-tools" class="tools" />
    </div>
    <RuleList v-if="part === 'rules'" v-model:chosen="chosen" :device-id="deviceId" />
    <IntentList v-else-if="part === 'intents'" v-model:as-grid="asGrid" />
    <GroupTables v-else-if="part === 'groups'" :device-id="deviceId" />
    <TermTables v-else-if="part === 'terms'" />
    <IntentText v-else />
    <GenerateRulesDialog v-if="session.edits && gateway" v-model="generating" :device-id="gateway.id" />
  </section>
</template>

<style scoped>
.posture {
  display: flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
}
.posture .field {
  width: auto;
  padding: 1px 4px;
  color: var(--ink);
}
.under {
  display: flex;
  gap: 10px;
  align-items: center;
  margin: 4px 0 6px;
  flex-wrap: wrap;
}
.under :deep(.tabs) {
  margin: 0 auto 0 0;
  flex: none;
}
.under .tools {
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
}
</style>
