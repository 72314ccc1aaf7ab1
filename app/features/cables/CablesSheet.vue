<script setup lang="ts">
import { mdiDownload, mdiPrinter } from '@mdi/js'
import { cableSchedule, LABEL_RULE, materials, SPARE_PCT, unknownInRule, type CableLine } from '#core/cabling'
import DataTable from '~/ui/DataTable.vue'
import ListTable from '~/ui/ListTable.vue'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import type { Column } from '~/ui/columns'
import { checkNumber } from '~/ui/columns'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { reasonOf } from '~/wording/problems'
import { problem } from '#core/util'

/** Every cable with its label, and everything that has to be bought. */
const plan = usePlan()
const session = useSession()
const shown = ref('schedule')
const index = computed(() => plan.index)
type Row = CableLine & { readonly id: string }
const rows = computed((): Row[] =>
  index.value ? cableSchedule(index.value).map((line) => ({ ...line, id: line.linkId })) : [],
)
const buy = computed(() =>
  (index.value ? materials(index.value) : []).map((line, nth) => ({ ...line, id: String(nth) })),
)
const metres = computed(() => rows.value.reduce((sum, r) => sum + r.lengthM, 0))

const setLink = (
  row: Row,
  session_: string,
  words: string,
  put: (link: { lag: string | null; medium: { lengthM?: number } }) => void,
) =>
  plan.edit(`${row.label}: ${words}`, session_, (draft) => {
    const link = draft.links.find((l) => l.id === row.id)
    if (link) put(link as never)
  })
const speed = (mbps: number | null) => {
  if (mbps === null) return '—'
  if (mbps >= 1000) return `${mbps / 1000} G`
  return `${mbps} M`
}
const columns: readonly Column<Row>[] = [
  { key: 'label', head: 'Label', mono: true, strong: true, get: (r) => r.label },
  { key: 'from', head: 'From', get: (r) => `${r.ends[0].device} ${r.ends[0].port}` },
  { key: 'to', head: 'To', get: (r) => `${r.ends[1].device} ${r.ends[1].port}` },
  { key: 'kind', head: 'Cable', width: '54px', get: (r) => r.kind },
  { key: 'run', head: 'Run', width: '66px', get: (r) => r.run },
  {
    key: 'length',
    head: 'm',
    num: true,
    mono: true,
    width: '44px',
    get: (r) => String(r.lengthM),
    check: (_, text) => checkNumber(text, 0, 200_000),
    commit: (row, text, s) => setLink(row, s, `${text} m`, (l) => void (l.medium.lengthM = Number(text))),
  },
  { key: 'speed', head: 'Link', num: true, mono: true, width: '50px', get: (r) => speed(r.mbps) },
  {
    key: 'lag',
    head: 'LAG',
    mono: true,
    width: '44px',
    get: (r) => r.lag ?? '—',
    edit: (r) => r.lag ?? '',
    check: (_, text) =>
      /^$|^—$|^[A-Za-z0-9][A-Za-z0-9._-]{0,20}$/.test(text) ? [] : [problem('no-name', '')],
    commit: (row, text, session) =>
      setLink(
        row,
        session,
        `LAG ${text || 'none'}`,
        (l) => void (l.lag = text === '' || text === '—' ? null : text),
      ),
  },
]

const rule = ref('')
const ruleProblem = computed(() => {
  const unknown = unknownInRule(rule.value)
  if (rule.value.trim() === '') return 'A rule cannot be empty.'
  if (unknown.length > 0)
    return (
      `${reasonOf(problem('bad-rule', '', { text: unknown.join(', ') }))}; known are n, ` +
      'from, fromPort, to, toPort, fromPlace, toPlace.'
    )
  return ''
})
watch(
  () => plan.draft?.site.labelRule,
  (now) => (rule.value = now ?? LABEL_RULE),
  { immediate: true },
)
function typeRule(): void {
  if (ruleProblem.value === '')
    plan.edit(`label rule ${rule.value}`, 'label rule', (draft) => void (draft.site.labelRule = rule.value))
}
const WHAT = { cable: 'cable', cord: 'cord', transceiver: 'transceiver', device: 'device' } as const
const buyColumns: readonly Column<(typeof buy.value)[number]>[] = [
  { key: 'what', head: 'Kind', get: (line) => WHAT[line.what] },
  { key: 'name', head: 'Name', strong: true, get: (line) => line.name },
  { key: 'run', head: 'Run', get: ({ run }) => (run === 'between' ? 'between buildings' : run) },
  { key: 'count', head: 'Count', num: true, mono: true, get: (line) => String(line.count) },
  {
    key: 'length',
    head: 'Metres to buy',
    num: true,
    mono: true,
    get: ({ lengthM }) => (lengthM === 0 ? '' : String(lengthM)),
  },
]
const parts = computed(() => [
  { key: 'schedule', name: 'Schedule', tally: String(rows.value.length) },
  { key: 'buy', name: 'To buy', tally: String(buy.value.length) },
])
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Cables</h1>
      <span class="tools">
        <UndoRedo />
        <VBtn :href="`/api/sites/${plan.slug}/export/cables.csv`" download :prepend-icon="mdiDownload"
          >Export schedule</VBtn
        >
        <VBtn :href="`/api/sites/${plan.slug}/export/materials.csv`" download :prepend-icon="mdiDownload"
          >Export materials</VBtn
        >
        <VBtn variant="flat" :to="`/labels/${plan.slug}`" :prepend-icon="mdiPrinter">Print labels</VBtn>
      </span>
      <p>
        {{ rows.length }} cables, {{ metres.toLocaleString('en') }} m. The label stands at both ends; a
        channel of copper is 90 m fixed and 10 m of cords at most.
      </p>
    </header>
    <TabBar v-model="shown" :parts="parts" label="Parts of the cables" />
    <div v-if="shown === 'schedule'" role="tabpanel" aria-labelledby="tab-schedule">
      <div class="rule">
        <VTextField
          v-model="rule"
          label="Label rule"
          class="mono"
          :error-messages="ruleProblem ? [ruleProblem] : []"
          :readonly="!session.edits"
          spellcheck="false"
          @input="typeRule"
        />
        <span v-if="!ruleProblem" class="small soft"
          >first: <span class="mono">{{ rows[0]?.label ?? '—' }}</span></span
        >
      </div>
      <ListTable
        title="Schedule, in the order of the labels"
        :columns="columns"
        :rows="rows"
        :name-of="(r) => r.label"
        empty="No cable yet."
      />
    </div>
    <div v-else role="tabpanel" aria-labelledby="tab-buy">
      <p class="small soft lead">
        Cable is counted with {{ SPARE_PCT }} % spare on each run, rounded up to whole metres; short indoor
        runs are bought as cords.
      </p>
      <DataTable label="To buy" :columns="buyColumns" :rows="buy" empty="Nothing to buy." />
      <p class="small caution">
        Fibre carries invisible light: never look into a fibre or a transceiver. Cable between buildings needs
        bonding and surge protection by licensed people; local codes decide.
      </p>
    </div>
  </section>
</template>

<style scoped>
.rule {
  display: grid;
  grid-template-columns: minmax(240px, 420px) 1fr;
  gap: 8px;
  align-items: center;
}
.lead {
  margin-bottom: 8px;
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  margin-top: 10px;
}
</style>
