<script setup lang="ts">
import type { RuleUsage } from '#core/filter'
import type { Intent, Plan, Rule, DeviceId } from '#core/schema'
import type { AcceptanceTest } from '#core/prove'
import { INTERNET } from '#core/reachability'
import { useRuleColumns, useRuleNote, useRuleWhen } from './columns'
import { usePolicyEdits } from './policy-edits'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import SheetTable from '~/ui/SheetTable.vue'
import { count } from '~/wording/findings'
import { testWords } from '~/wording/proof'

/** The ordered rules of a gateway, with what each is there for. */
const props = defineProps<{ deviceId: DeviceId }>()
const chosen = defineModel<string>('chosen', { required: true })
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const site = useSite()
const { place: pointedAt, goToPlace } = usePointer()

const policy = computed(() => plan.draft?.policies.find((p) => p.deviceId === props.deviceId))
const rules = computed(() => policy.value?.rules ?? [])
const row = computed(() => rules.value.find((r) => r.id === chosen.value))
const focusAt = computed(() =>
  pointedAt.value[0] === 'policies' ? { row: pointedAt.value[3] ?? '', column: 'from' } : null,
)
const trouble = (rule: Rule, key: string) =>
  key === 'n' &&
  (analysis.analysis?.findings ?? []).some(
    (f) => f.place[0] === 'policies' && f.place[3] === rule.id && f.severity !== 'note',
  )

/** What each rule is there for, and the tests that hit it. */
const hits = shallowRef<ReadonlyMap<string, RuleUsage>>(new Map())
watch(
  [() => props.deviceId, () => analysis.analysis?.grid],
  async ([id]) => {
    hits.value = new Map((await analysis.hits(id)).map((h) => [h.ruleId, h]))
  },
  { immediate: true },
)
const intentsOfRule = (rule: Rule): Intent[] =>
  (hits.value.get(rule.id)?.meant ?? []).flatMap((id) => plan.draft?.intents.find((i) => i.id === id) ?? [])
/** Tests try what an intent wants, and that nothing else passes from a network. */
function testsOfRule(rule: Rule): AcceptanceTest[] {
  const { decided = [], refusedFrom = [] } = hits.value.get(rule.id) ?? {}
  return (site.proof?.tests ?? []).filter((test) =>
    test.intentId !== null
      ? decided.includes(test.intentId)
      : test.kind === 'nothing-else' && refusedFrom.includes(test.from === INTERNET ? 'uplink' : test.from),
  )
}
const intentNames = computed(() =>
  row.value
    ? intentsOfRule(row.value)
        .map((i) => i.note || i.id)
        .join('; ')
    : '',
)
const MOST_NAMED = 4
const hitWords = computed(() => {
  if (!row.value || !plan.draft) return ''
  const titles = testsOfRule(row.value).map((t) => testWords(t, plan.draft as Plan).title)
  if (titles.length === 0) return 'No test hits it.'
  const more = titles.length > MOST_NAMED ? ` and ${titles.length - MOST_NAMED} more` : ''
  return `Hit by: ${titles.slice(0, MOST_NAMED).join('; ')}${more}.`
})
function reasonWords(rule: Rule): string {
  const [own, tests] = [intentsOfRule(rule), count(testsOfRule(rule).length, 'test')]
  if (own.length === 0) return rule.action === 'accept' ? `${tests} · no intent` : tests
  return `${tests} · ${own.length === 1 ? (own[0]?.note ?? '') : count(own.length, 'intent')}`
}

const ruleColumns = useRuleColumns(() => props.deviceId)
const setNote = useRuleNote(() => props.deviceId)
const ruleWhen = useRuleWhen(() => props.deviceId)
const columns = computed(() => [
  ...ruleColumns,
  ...ruleWhen(),
  { key: 'why', head: 'Tried, and for which intents', clips: true, width: '200px', get: reasonWords },
])

const edits = usePolicyEdits(() => props.deviceId)
/** Where the chosen rule stands, from 1. */
const place = computed(() => rules.value.findIndex((r) => r.id === chosen.value) + 1)
function moveTo(to: number): void {
  if (row.value && Number.isInteger(to) && to !== place.value) edits.moveTo(row.value, to)
}
function add(): void {
  const first = plan.draft?.networks[0]
  if (!first) return
  if (!policy.value) edits.begin()
  edits.add(first.id)
  const made = rules.value.at(-1)
  if (made) void goToPlace('rules', ['policies', props.deviceId, 'rules', made.id])
}
defineExpose({ add })
</script>

<template>
  <Teleport v-if="session.edits && deviceId !== ''" defer to="#rules-tools">
    <VBtn :disabled="!row || place === 1" @click="moveTo(place - 1)">
      Up<span class="sr">: {{ row?.note }}</span>
    </VBtn>
    <VBtn :disabled="!row || place === rules.length" @click="moveTo(place + 1)">
      Down<span class="sr">: {{ row?.note }}</span>
    </VBtn>
    <VBtn :disabled="!row" @click="row && edits.remove(row)">
      Remove<span class="sr">: {{ row?.note }}</span>
    </VBtn>
    <VBtn @click="add">Add a rule</VBtn>
  </Teleport>
  <p v-if="rules.length > 0" class="chosen-rule small">
    <template v-if="row"
      ><VTextField
        class="note"
        :label="`Rule ${rules.indexOf(row) + 1}, note`"
        :model-value="row.note"
        maxlength="200"
        :readonly="!session.edits"
        @change="setNote(row, ($event.target as HTMLInputElement).value)"
      />
      <VTextField
        class="place"
        type="number"
        label="Place"
        :min="1"
        :max="rules.length"
        :model-value="place"
        :readonly="!session.edits"
        @change="moveTo(Number(($event.target as HTMLInputElement).value))"
      />
      <span class="soft"
        ><template v-if="intentNames">For: {{ intentNames }}. </template>{{ hitWords }}</span
      ></template
    >
    <span v-else class="soft">Choose a rule for its note, all it is for, and the tests that hit it.</span>
  </p>
  <SheetTable
    :columns="columns"
    :rows="rules"
    label="Rules"
    ordered
    :name-of="(r) => r.note || r.id"
    :readonly="!session.edits"
    :chosen="chosen"
    :trouble="trouble"
    :focus-at="focusAt"
    @choose="(id) => (chosen = id)"
  >
    <template #empty>No rule: the defaults decide alone.</template>
  </SheetTable>
</template>

<style scoped>
.chosen-rule > .v-input {
  flex: 0 1 280px;
}
.chosen-rule > .place {
  flex: 0 0 84px;
}
.chosen-rule {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: baseline;
  min-height: 44px;
  margin: 0 0 6px;
}
.chosen-rule span {
  flex: 1 1 240px;
}
</style>
