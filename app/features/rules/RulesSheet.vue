<script setup lang="ts">
import type { Problem } from '#core/util'
import { freshId, type Intent, type Plan, type Rule, type Selector } from '#core/model'
import { readIntents, writeIntents, type RuleUsage } from '#core/filter'
import type { AcceptanceTest } from '#core/prove'
import { INTERNET } from '#core/reachability'
import IntentGrid from './IntentGrid.vue'
import GenerateRulesDialog from './GenerateRulesDialog.vue'
import TabBar from '~/ui/TabBar.vue'
import SheetTable from '~/ui/SheetTable.vue'
import InferIntentsDialog from './InferIntentsDialog.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { usePointer } from '~/shell/finding-navigation'
import {
  useGroupColumns,
  useIntentColumns,
  useIntentWhen,
  usePairColumns,
  useRuleColumns,
  useRuleNote,
  useRuleWhen,
  useScheduleColumns,
  useServiceColumns,
} from './columns'
import { useAnalysis } from '~/stores/analysis'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { count } from '~/wording/findings'
import { sentenceOf } from '~/wording/problems'
import { testWords } from '~/wording/proof'

/** What must pass, and the ordered rules that see to it. */
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const site = useSite()
const { place } = usePointer()

const gateways = computed(() => (plan.draft?.devices ?? []).filter((d) => d.kind === 'gateway'))
const gatewayId = ref('')
const gateway = computed(() => gateways.value.find((d) => d.id === gatewayId.value) ?? gateways.value[0])
const policy = computed(() => plan.draft?.policies.find((p) => p.deviceId === gateway.value?.id))
const rules = computed(() => policy.value?.rules ?? [])
const intents = computed(() => plan.draft?.intents ?? [])
const schedules = computed(() => plan.draft?.schedules ?? [])
const services = computed(() => plan.draft?.services ?? [])
/** The intents of the grid's pairs, or all of them with all they say. */
const asGrid = ref(true)
const part = ref<'rules' | 'intents' | 'groups' | 'terms' | 'text'>('rules')
const parts = computed(() => [
  { key: 'rules', name: 'Rules', tally: String(rules.value.length) },
  { key: 'intents', name: 'Intents', tally: String(intents.value.length) },
  { key: 'groups', name: 'Groups' },
  { key: 'terms', name: 'Services and times' },
  { key: 'text', name: 'As text' },
])
const chosen = ref('')
const row = computed(() => rules.value.find((r) => r.id === chosen.value))
watch(
  place,
  (path) => {
    if (path[0] === 'policies') {
      part.value = path[2] === 'pairs' ? 'groups' : 'rules'
      gatewayId.value = path[1] ?? ''
      chosen.value = path[3] ?? ''
    }
    if (path[0] === 'intents') [part.value, asGrid.value] = ['intents', false]
    if (path[0] === 'groups') part.value = 'groups'
  },
  { immediate: true },
)
const focusAt = computed(() =>
  place.value[0] === 'policies' ? { row: place.value[3] ?? '', column: 'from' } : null,
)

const findings = computed(() => analysis.analysis?.findings ?? [])
const trouble = (row: Rule, key: string) =>
  key === 'n' &&
  findings.value.some((f) => f.place[0] === 'policies' && f.place[3] === row.id && f.severity !== 'note')
const missed = (row: { readonly id: string }, key: string) =>
  key === 'note' &&
  findings.value.some((f) => f.code === 'P01' && f.place[0] === 'intents' && f.place[1] === row.id)

/** What each rule is there for, and the tests that hit it. */
const hits = shallowRef<ReadonlyMap<string, RuleUsage>>(new Map())
watch(
  [() => gateway.value?.id, () => analysis.analysis?.grid],
  async ([id]) => {
    if (id) hits.value = new Map((await analysis.hits(id)).map((h) => [h.ruleId, h]))
  },
  { immediate: true },
)
const intentsOfRule = (rule: Rule): Intent[] =>
  (hits.value.get(rule.id)?.meant ?? []).flatMap((id) => intents.value.find((i) => i.id === id) ?? [])
/** Tests try what an intent wants, and that nothing else passes from a network. */
function testsOfRule(rule: Rule): AcceptanceTest[] {
  const { decided = [], refusedFrom = [] } = hits.value.get(rule.id) ?? {}
  return (site.proof?.tests ?? []).filter((test) =>
    test.intentId !== null
      ? decided.includes(test.intentId)
      : test.kind === 'nothing-else' && refusedFrom.includes(test.from === INTERNET ? 'uplink' : test.from),
  )
}
const hitBy = computed(() =>
  row.value && plan.draft ? testsOfRule(row.value).map((t) => testWords(t, plan.draft as Plan).title) : [],
)
function reasonWords(rule: Rule): string {
  const [mine, tests] = [intentsOfRule(rule), count(testsOfRule(rule).length, 'test')]
  if (mine.length === 0) return rule.action === 'accept' ? `${tests} · no intent` : tests
  return `${tests} · ${mine.length === 1 ? (mine[0]?.note ?? '') : count(mine.length, 'intent')}`
}
const ruleColumns = useRuleColumns(() => gateway.value?.id ?? '')
const setNote = useRuleNote(() => gateway.value?.id ?? '')
const intentColumns = useIntentColumns()
const [ruleWhen, intentWhen, scheduleColumns, serviceColumns] = [
  useRuleWhen(() => gateway.value?.id ?? ''),
  useIntentWhen(),
  useScheduleColumns(),
  useServiceColumns(),
]
const columns = computed(() => [
  ...ruleColumns,
  ...ruleWhen(),
  { key: 'why', head: 'Tried, and for which intents', clips: true, width: '200px', get: reasonWords },
])

const put = (words: string, recipe: (list: Rule[]) => void) =>
  plan.edit(words, '', (draft) => {
    const home = draft.policies.find((p) => p.deviceId === gateway.value?.id)
    if (home) recipe(home.rules as Rule[])
  })
function move(moved: Rule, by: 1 | -1): void {
  put(`rule moved ${by < 0 ? 'up' : 'down'}`, (list) => {
    const from = list.findIndex((r) => r.id === moved.id)
    const [rule] = list.splice(from, 1)
    if (rule) list.splice(Math.max(0, Math.min(list.length, from + by)), 0, rule)
  })
}
const remove = (gone: Rule) =>
  put(
    'rule removed',
    (list) =>
      void list.splice(
        list.findIndex((r) => r.id === gone.id),
        1,
      ),
  )
function add(): void {
  const first = plan.draft?.networks[0]
  if (!first || !gateway.value) return
  if (!policy.value)
    plan.edit(
      'rules begun',
      '',
      (draft) =>
        void draft.policies.push({
          deviceId: gateway.value?.id ?? '',
          forward: 'drop',
          input: 'drop',
          rules: [],
          pairs: [],
        }),
    )
  put(
    'rule added',
    (list) =>
      void list.push({
        id: freshId(list, 'rule'),
        chain: 'forward',
        action: 'accept',
        from: { kind: 'network', id: first.id },
        to: { kind: 'internet' },
        services: [],
        note: '',
        log: false,
        when: null,
      }),
  )
}
function addIntent(): void {
  const first = plan.draft?.networks[0]
  asGrid.value = false
  if (first)
    plan.edit(
      'intent added',
      '',
      (draft) =>
        void draft.intents.push({
          id: freshId(draft.intents, 'intent'),
          from: { kind: 'network', id: first.id },
          to: { kind: 'internet' },
          services: [],
          survives: [],
          log: false,
          when: null,
          note: 'New intent',
        }),
    )
}
const OFFICE = { name: 'Office hours', days: [1, 2, 3, 4, 5], from: '08:00', to: '18:00' }
const addSchedule = () =>
  plan.edit(
    'schedule added',
    '',
    (draft) =>
      void draft.schedules.push({
        id: freshId(draft.schedules, 'schedule'),
        ...structuredClone(OFFICE),
        name: draft.schedules.length === 0 ? OFFICE.name : `Schedule ${draft.schedules.length + 1}`,
      }),
  )
const allRules = computed(() => plan.draft?.policies.flatMap((p) => p.rules) ?? [])
const usedBy = (names: (x: Rule | Intent) => boolean) => {
  const [byRules, byIntents] = [allRules.value.filter(names).length, intents.value.filter(names).length]
  return byRules + byIntents === 0 ? '' : `${count(byRules, 'rule')}, ${count(byIntents, 'intent')}`
}
// One that is in use stays: whether what it limits would then be there always or never, nobody but the
// planner can say.
const scheduleUse = (id: string) => usedBy((x) => x.when === id)
const serviceUse = (id: string) =>
  [
    usedBy((x) => x.services.includes(id)),
    ...((plan.draft?.policyRoutes ?? []).some((r) => r.services.includes(id)) ? ['a choice of line'] : []),
  ]
    .filter((t) => t !== '')
    .join(', ')
const addService = () =>
  plan.edit(
    'service added',
    '',
    (draft) =>
      void draft.services.push({
        id: freshId(draft.services, 'service'),
        name: `Service ${draft.services.length + 1}`,
        entries: [{ proto: 'tcp', from: 8080, to: 8080 }],
      }),
  )
const groups = computed(() => plan.draft?.groups ?? [])
const pairs = computed(() => policy.value?.pairs ?? [])
const [groupColumns, pairColumns] = [useGroupColumns(), usePairColumns(() => gateway.value?.id ?? '')]
const namesGroup = (id: string) => (x: { readonly from: Selector; readonly to: Selector }) =>
  [x.from, x.to].some((s) => s.kind === 'group' && s.id === id)
const groupUse = (id: string) => {
  const defaults = (plan.draft?.policies ?? []).flatMap((p) => p.pairs).filter(namesGroup(id)).length
  const routes = (plan.draft?.policyRoutes ?? []).filter(
    (r) => r.from.kind === 'group' && r.from.id === id,
  ).length
  return [
    usedBy(namesGroup(id)),
    defaults > 0 ? count(defaults, 'default') : '',
    routes > 0 ? 'a choice of line' : '',
  ]
    .filter((t) => t !== '')
    .join(', ')
}
const addGroup = () =>
  plan.edit(
    'group added',
    '',
    (draft) =>
      void draft.groups.push({
        id: freshId(draft.groups, 'group'),
        name: `Group ${draft.groups.length + 1}`,
        members: draft.networks.slice(0, 1).map((n) => ({ kind: 'network' as const, id: n.id })),
      }),
  )
const removeGroup = (id: string) =>
  plan.edit(
    'group removed',
    '',
    (draft) =>
      void draft.groups.splice(
        draft.groups.findIndex((g) => g.id === id),
        1,
      ),
  )
const ofPolicy = (words: string, recipe: (home: PlanDraft['policies'][number]) => void) =>
  plan.edit(words, '', (draft) => {
    const home = draft.policies.find((p) => p.deviceId === gateway.value?.id)
    if (home) recipe(home)
  })
const addPair = () =>
  ofPolicy(
    'default of a pair added',
    (home) =>
      void home.pairs.push({
        id: freshId(home.pairs, 'pair'),
        from: { kind: 'inside' },
        to: { kind: 'internet' },
        action: home.forward === 'drop' ? 'accept' : 'drop',
      }),
  )
const removePair = (id: string) =>
  ofPolicy(
    'default of a pair removed',
    (home) =>
      void home.pairs.splice(
        home.pairs.findIndex((p) => p.id === id),
        1,
      ),
  )
const removeService = (id: string) =>
  plan.edit(
    'service removed',
    '',
    (draft) =>
      void draft.services.splice(
        draft.services.findIndex((s) => s.id === id),
        1,
      ),
  )
const removeSchedule = (id: string) =>
  plan.edit(
    'schedule removed',
    '',
    (draft) =>
      void draft.schedules.splice(
        draft.schedules.findIndex((s) => s.id === id),
        1,
      ),
  )
const removeIntent = (id: string) =>
  plan.edit(
    'intent removed',
    '',
    (draft) =>
      void draft.intents.splice(
        draft.intents.findIndex((i) => i.id === id),
        1,
      ),
  )
const setDefault = (chain: 'forward' | 'input', event: Event) =>
  plan.edit(`default of ${chain}`, '', (draft) => {
    const home = draft.policies.find((p) => p.deviceId === gateway.value?.id)
    if (home) home[chain] = (event.target as HTMLSelectElement).value as 'accept' | 'drop'
  })

const making = ref(false)
const taking = ref(false)
const text = ref('')
const wrong = shallowRef<readonly Problem[]>([])
watch(
  [part, intents],
  () => {
    text.value = writeIntents(intents.value)
    wrong.value = []
  },
  { immediate: true },
)
function typed(): void {
  const read = readIntents(text.value)
  wrong.value = read.ok ? [] : read.problems
}
function take(): void {
  const read = readIntents(text.value)
  if (read.ok)
    plan.edit(
      'intents typed',
      '',
      (draft) => void (draft.intents = structuredClone(read.value) as typeof draft.intents),
    )
}
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
          @click="making = true"
        >
          Rules from intents
        </button>
      </span>
      <p v-if="policy" class="posture">
        <select v-if="gateways.length > 1" v-model="gatewayId" class="field" aria-label="Gateway">
          <option v-for="g in gateways" :key="g.id" :value="g.id">{{ g.name }}</option>
        </select>
        What no rule names is
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
        through the gateway and
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
        to itself. Answers follow what was let through.
      </p>
      <p v-else>No gateway, or none with rules yet.</p>
    </header>
    <div class="under">
      <TabBar v-model="part" :parts="parts" label="Parts of Rules" />
      <template v-if="session.edits && part === 'rules' && gateway">
        <button
          type="button"
          class="press"
          :disabled="!row || row === rules[0]"
          @click="row && move(row, -1)"
        >
          Up<span class="sr">: {{ row?.note }}</span>
        </button>
        <button
          type="button"
          class="press"
          :disabled="!row || row === rules.at(-1)"
          @click="row && move(row, 1)"
        >
          Down<span class="sr">: {{ row?.note }}</span>
        </button>
        <button type="button" class="press" :disabled="!row" @click="row && remove(row)">
          Remove<span class="sr">: {{ row?.note }}</span>
        </button>
        <button type="button" class="press" @click="add">Add a rule</button>
      </template>
      <template v-if="session.edits && part === 'terms'"
        ><button type="button" class="press" @click="addService">Add a service</button
        ><button type="button" class="press" @click="addSchedule">Add a schedule</button></template
      >
      <template v-if="session.edits && part === 'groups'"
        ><button type="button" class="press" @click="addGroup">Add a group</button
        ><button v-if="policy" type="button" class="press" @click="addPair">Add a default</button></template
      >
      <button v-if="part === 'intents'" type="button" class="press" @click="asGrid = !asGrid">
        {{ asGrid ? 'As a list' : 'As a grid' }}
      </button>
      <button v-if="session.edits && part === 'intents'" type="button" class="press" @click="taking = true">
        From rules
      </button>
      <button v-if="session.edits && part === 'intents'" type="button" class="press" @click="addIntent">
        Add an intent
      </button>
    </div>
    <p v-if="part === 'rules' && rules.length > 0" class="chosen-rule small">
      <template v-if="row"
        ><label
          >Rule {{ rules.indexOf(row) + 1 }}, note
          <input
            class="field"
            :value="row.note"
            maxlength="200"
            :readonly="!session.edits"
            @change="setNote(row, ($event.target as HTMLInputElement).value)"
        /></label>
        <span class="soft"
          ><template v-if="intentsOfRule(row).length > 0"
            >For:
            {{
              intentsOfRule(row)
                .map((i) => i.note || i.id)
                .join('; ')
            }}. </template
          >{{
            hitBy.length === 0
              ? 'No test hits it.'
              : `Hit by: ${hitBy.slice(0, 4).join('; ')}${hitBy.length > 4 ? ` and ${hitBy.length - 4} more` : ''}.`
          }}</span
        ></template
      >
      <span v-else class="soft">Choose a rule for its note, all it is for, and the tests that hit it.</span>
    </p>
    <SheetTable
      v-if="part === 'rules'"
      :columns="columns"
      :rows="rules"
      label="Rules"
      :name-of="(r) => r.note || r.id"
      :readonly="!session.edits"
      :chosen="chosen"
      :trouble="trouble"
      :focus-at="focusAt"
      @choose="(id) => (chosen = id)"
    >
      <template #empty>No rule: the defaults decide alone.</template>
    </SheetTable>
    <IntentGrid v-else-if="part === 'intents' && asGrid" />
    <SheetTable
      v-else-if="part === 'intents'"
      :columns="[
        ...intentColumns,
        ...intentWhen(),
        { key: 'survives', head: 'Also without', get: (i) => i.survives.join(', ') || '—' },
        { key: 'remove', head: '', get: () => '', width: '80px' },
      ]"
      :rows="intents"
      label="Intents"
      :name-of="(i) => i.note || i.id"
      :readonly="!session.edits"
      :trouble="missed"
    >
      <template #remove="{ row }"
        ><button v-if="session.edits" type="button" class="plain link" @click="removeIntent(row.id)">
          Remove<span class="sr"> {{ row.note || row.id }}</span>
        </button></template
      >
      <template #empty>Nothing is meant to pass yet. Whatever no intent names must not.</template>
    </SheetTable>
    <template v-else-if="part === 'groups'">
      <SheetTable
        :columns="[
          ...groupColumns,
          { key: 'used', head: 'Used by', get: (g) => groupUse(g.id) || '—' },
          { key: 'remove', head: '', get: () => '', width: '80px' },
        ]"
        :rows="groups"
        label="Groups"
        :name-of="(g) => g.name"
        :readonly="!session.edits"
      >
        <template #remove="{ row }"
          ><button
            v-if="session.edits && groupUse(row.id) === ''"
            type="button"
            class="plain link"
            @click="removeGroup(row.id)"
          >
            Remove<span class="sr"> {{ row.name }}</span>
          </button></template
        >
        <template #empty
          >No group. One may hold networks (a zone), devices, prefixes, tunnels and peers, and stand wherever
          one of them may.</template
        >
      </SheetTable>
      <SheetTable
        v-if="policy"
        class="pairs"
        :columns="[...pairColumns, { key: 'remove', head: '', get: () => '', width: '80px' }]"
        :rows="pairs"
        label="Defaults of pairs"
        :name-of="(p) => p.id"
        :readonly="!session.edits"
      >
        <template #remove="{ row }"
          ><button v-if="session.edits" type="button" class="plain link" @click="removePair(row.id)">
            Remove<span class="sr"> {{ row.id }}</span>
          </button></template
        >
        <template #empty
          >No pair has a default of its own: what no rule names is
          {{ policy.forward === 'drop' ? 'dropped' : 'accepted' }}.</template
        >
      </SheetTable>
      <p class="small soft said">
        After the rules, the first pair that fits decides what passes through the gateway; what fits none has
        the default above.
      </p>
    </template>
    <template v-else-if="part === 'terms'">
      <SheetTable
        :columns="[
          ...scheduleColumns,
          { key: 'used', head: 'Used by', get: (s) => scheduleUse(s.id) || '—' },
          { key: 'remove', head: '', get: () => '', width: '80px' },
        ]"
        :rows="schedules"
        label="Schedules"
        :name-of="(s) => s.name"
        :readonly="!session.edits"
      >
        <template #remove="{ row }"
          ><button
            v-if="session.edits && scheduleUse(row.id) === ''"
            type="button"
            class="plain link"
            @click="removeSchedule(row.id)"
          >
            Remove<span class="sr"> {{ row.name }}</span>
          </button></template
        >
        <template #empty>No schedule: every rule is there always.</template>
      </SheetTable>
      <p class="small soft said">
        Times by the gateway's clock, for rules and intents that are not for always. The end is not included;
        one before the beginning is on the next day. The Lookout judges every time of the week; choose one
        under Weather to see its grid.
      </p>
      <SheetTable
        :columns="[
          ...serviceColumns,
          { key: 'used', head: 'Used by', get: (s) => serviceUse(s.id) || '—' },
          { key: 'remove', head: '', get: () => '', width: '80px' },
        ]"
        :rows="services"
        label="Services"
        :name-of="(s) => s.name"
        :readonly="!session.edits"
      >
        <template #remove="{ row }"
          ><button
            v-if="session.edits && serviceUse(row.id) === ''"
            type="button"
            class="plain link"
            @click="removeService(row.id)"
          >
            Remove<span class="sr"> {{ row.name }}</span>
          </button></template
        >
      </SheetTable>
      <p class="small soft said">
        Where services are typed, a name of IANA's registry will do too (<span class="mono">imaps</span>,
        <span class="mono">ntp/udp</span>), or ports (<span class="mono">tcp 8080</span>): it becomes a
        service here. The registry gives many names both tcp and udp; narrow what only uses one.
      </p>
    </template>
    <template v-else>
      <p class="small soft">
        One intent a line:
        <span class="mono">name: from -> to: services survives what during when logged # note</span>. From and
        to are a network, <span class="mono">device</span>, <span class="mono">tunnel</span> or
        <span class="mono">peer</span> or <span class="mono">group</span> with its id, a prefix, or any,
        inside, internet, gateway.
      </p>
      <textarea
        v-model="text"
        class="field mono text"
        :class="{ wrong: wrong.length > 0 }"
        :readonly="!session.edits"
        aria-label="Intents as text"
        spellcheck="false"
        rows="18"
        @input="typed"
      />
      <ul v-if="wrong.length > 0" class="wrong-words" role="alert">
        <li v-for="(p, i) in wrong.slice(0, 6)" :key="i">{{ sentenceOf(p) }}</li>
      </ul>
      <div v-if="session.edits" class="acts">
        <button
          type="button"
          class="press main"
          :disabled="wrong.length > 0 || text === writeIntents(intents)"
          @click="take"
        >
          Take these intents
        </button>
      </div>
    </template>
    <InferIntentsDialog v-if="session.edits" v-model="taking" />
    <GenerateRulesDialog v-if="session.edits && gateway" v-model="making" :device-id="gateway.id" />
  </section>
</template>

<style scoped>
.chosen-rule {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: baseline;
  min-height: 44px;
  margin: 0 0 6px;
}
.chosen-rule label {
  flex: none;
  max-width: 100%;
}
.chosen-rule span {
  flex: 1 1 240px;
}
.chosen-rule .field {
  width: 240px;
  display: inline-block;
  padding: 1px 6px;
}
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
.pairs {
  margin-top: 12px;
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
.link {
  color: var(--deep);
  text-decoration: underline;
  margin-right: 6px;
}
.text {
  font-size: 13px;
  line-height: 19px;
  white-space: pre;
  overflow-x: auto;
  margin-top: 6px;
}
.said {
  margin: 4px 0 8px;
}
ul {
  margin: 6px 0;
  padding-left: 18px;
}
.acts {
  margin-top: 8px;
}
</style>
