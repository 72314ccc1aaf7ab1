<script setup lang="ts">
import GroupTables from './GroupTables.vue'
import IntentList from './IntentList.vue'
import IntentText from './IntentText.vue'
import RuleList from './RuleList.vue'
import TermTables from './TermTables.vue'
import { usePolicyEdits } from './policy-edits'
import { useActions } from '~/shell/actions'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useOpened } from '~/ui/opened'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'

const GenerateRulesDialog = defineAsyncComponent(() => import('./GenerateRulesDialog.vue'))

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
const setDefault = (chain: 'forward' | 'input', action: string | null) =>
  edits.setDefault(chain, action as 'accept' | 'drop')
const generating = ref(false)
const wasGenerating = useOpened(generating)
const ruleList = useTemplateRef<InstanceType<typeof RuleList>>('ruleList')
const intentList = useTemplateRef<InstanceType<typeof IntentList>>('intentList')
useActions({
  'add-rule': async () => {
    part.value = 'rules'
    await nextTick()
    ruleList.value?.add()
  },
  'add-intent': async () => {
    part.value = 'intents'
    asGrid.value = false
    await nextTick()
    intentList.value?.add()
  },
})
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Rules</h1>
      <span class="tools">
        <UndoRedo />
        <VBtn v-if="session.edits" :disabled="!gateway || intents.length === 0" @click="generating = true">
          Rules from intents
        </VBtn>
      </span>
      <div v-if="policy" class="posture">
        <VSelect
          v-if="gateways.length > 1"
          v-model="gatewayId"
          label="Gateway"
          :items="gateways"
          item-value="id"
          item-title="name"
        />
        <span>Default policy for what no rule names:</span>
        <VSelect
          label="Through the gateway"
          :model-value="policy.forward"
          :disabled="!session.edits"
          :items="['drop', 'accept']"
          @update:model-value="setDefault('forward', $event)"
        />
        <VSelect
          label="To the gateway itself"
          :model-value="policy.input"
          :disabled="!session.edits"
          :items="['drop', 'accept']"
          @update:model-value="setDefault('input', $event)"
        />
        <span>Replies to allowed traffic are allowed.</span>
      </div>
      <p v-else>No gateway, or none with rules yet.</p>
    </header>
    <div class="under">
      <TabBar v-model="part" :parts="parts" label="Parts of Rules" />
      <span id="rules-tools" class="tools" />
    </div>
    <RuleList v-if="part === 'rules'" ref="ruleList" v-model:chosen="chosen" :device-id="deviceId" />
    <IntentList v-else-if="part === 'intents'" ref="intentList" v-model:as-grid="asGrid" />
    <GroupTables v-else-if="part === 'groups'" :device-id="deviceId" />
    <TermTables v-else-if="part === 'terms'" />
    <IntentText v-else />
    <GenerateRulesDialog
      v-if="session.edits && gateway && wasGenerating"
      v-model="generating"
      :device-id="gateway.id"
    />
  </section>
</template>

<style scoped>
.posture > .v-input {
  flex: 0 0 170px;
}
.posture {
  margin-top: 8px;
  display: flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
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
