<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { selectorKey } from '#core/queries'
import type { Rule, DeviceId } from '#core/schema'
import { compileIntents, formatServices, servicesOf } from '#core/filter'
import { useSelectors } from './selectors'
import { usePlan } from '~/stores/plan'
import { count } from '~/wording/findings'

/** The least list of rules for the intents, with the reason for each, beside what stands there now. */
const props = defineProps<{ deviceId: DeviceId }>()
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const pick = useSelectors()
const index = computed(() => (open.value ? plan.index : null))
const made = computed(() =>
  index.value && plan.draft ? compileIntents(index.value, plan.draft.intents) : [],
)
const policy = computed(() => plan.draft?.policies.find((p) => p.deviceId === props.deviceId))
function says(rule: Rule): string {
  const to = rule.chain === 'input' ? '' : selectorKey(rule.to)
  const services = index.value ? formatServices(servicesOf(rule.services, index.value.services)) : ''
  return `${rule.chain} ${rule.action} ${selectorKey(rule.from)} > ${to}: ${services}`
}
const now = computed(() => new Set((policy.value?.rules ?? []).map(says)))
const then = computed(() => new Set(made.value.map((m) => says(m.rule))))
const gone = computed(() => (policy.value?.rules ?? []).filter((r) => !then.value.has(says(r))))
const noteOf = (id: string) => plan.draft?.intents.find((i) => i.id === id)?.note || id
function lay(): void {
  // A rule that stays keeps its name and its note, and is written down if an intent of it is.
  const kept = new Map((policy.value?.rules ?? []).map((r) => [says(r), r]))
  const rules = made.value.map((generated) => {
    const known = kept.get(says(generated.rule))
    return known ? { ...known, log: known.log || generated.rule.log } : generated.rule
  })
  plan.edit(`rules made from ${count(plan.draft?.intents.length ?? 0, 'intent')}`, '', (draft) => {
    const home = draft.policies.find((p) => p.deviceId === props.deviceId)
    if (home)
      Object.assign(home, { forward: 'drop', input: 'drop', rules: structuredClone(rules), pairs: [] })
  })
  open.value = false
}
</script>

<template>
  <AppDialog v-model="open" :width="860" title="Rules from intents">
    <p class="soft">
      The least list that lets through what is meant, with everything else dropped. All of them accept, so
      their order changes nothing.
    </p>
    <VTable class="ruled">
      <thead>
        <tr>
          <th />
          <th>From</th>
          <th>To</th>
          <th>Services</th>
          <th>For</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in made" :key="m.rule.id">
          <td>{{ now.has(says(m.rule)) ? 'stays' : 'new' }}</td>
          <td>{{ pick.words(m.rule.from) }}</td>
          <td>{{ m.rule.chain === 'input' ? 'the gateway' : pick.words(m.rule.to) }}</td>
          <td>{{ pick.serviceWords(m.rule.services) }}</td>
          <td class="small">{{ m.intentIds.map(noteOf).join('; ') }}</td>
        </tr>
        <tr v-for="r in gone" :key="r.id" class="trouble">
          <td>goes</td>
          <td>{{ pick.words(r.from) }}</td>
          <td>{{ r.chain === 'input' ? 'the gateway' : pick.words(r.to) }}</td>
          <td>{{ pick.serviceWords(r.services) }}</td>
          <td class="small">{{ r.note }}</td>
        </tr>
      </tbody>
    </VTable>
    <template #actions>
      <VBtn variant="flat" :disabled="made.length === 0" @click="lay">
        Apply {{ count(made.length, 'rule') }}
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
td {
  white-space: normal;
}
</style>
