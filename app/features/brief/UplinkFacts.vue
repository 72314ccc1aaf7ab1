<script setup lang="ts">
import { addUplink, removeUplink } from '#core/edit'
import { useCellularColumns, useUplinkColumns, useUplinkMoreColumns } from '~/features/uplinks/uplink-columns'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import ListTable from '~/ui/ListTable.vue'
import { sentenceOf } from '~/wording/problems'

/** The provider's lines: each fact of them where it is typed. */
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const { place } = usePointer()
const lineColumns = useUplinkColumns()
const lineMore = useUplinkMoreColumns()
const cellular = useCellularColumns()
const uplinks = computed(() => plan.draft?.uplinks ?? [])
const cellularUplinks = computed(() => uplinks.value.filter((u) => u.facts.cellular))
const uplinkProblems = ref('')
function newUplink(): void {
  if (!plan.draft) return
  const result = addUplink(plan.draft, `Uplink ${plan.draft.uplinks.length + 1}`)
  uplinkProblems.value = result.ok
    ? ''
    : `No uplink was added: ${result.problems.map(sentenceOf).join('; ')}.`
  if (result.ok) plan.change('uplink added', '', () => result.value)
}

const MORE_FIELDS = ['credentialsAt', 'address', 'gateway', 'dns', 'modemForwards', 'portEnabled']
const LINE_FIELDS: Readonly<Record<string, string>> = {
  tagKnown: 'tag',
  pcp: 'pcp',
  macLock: 'macLock',
  linkSpeed: 'linkSpeed',
  downMbps: 'downMbps',
  capGb: 'capGb',
  outsideKnown: 'outsideKnown',
  modem: 'modem',
}
const lineAt = shallowRef<{ row: string; column: string } | null>(null)
const cellularAt = shallowRef<{ row: string; column: string } | null>(null)
const moreAt = shallowRef<{ row: string; column: string } | null>(null)
watch(
  place,
  async (path) => {
    if (path[0] !== 'uplinks') return
    await nextTick()
    const field = path.at(-1) ?? ''
    const at = { row: path[1] ?? '', column: LINE_FIELDS[field] ?? field }
    if (path[3] === 'cellular') cellularAt.value = at
    else if (MORE_FIELDS.includes(field)) moreAt.value = at
    else lineAt.value = at
  },
  { immediate: true },
)
const findings = computed(() =>
  (analysis.analysis?.findings ?? []).filter((f) => f.place[0] === 'uplinks' && f.severity !== 'note'),
)
const lineTrouble = (row: { id: string }, key: string) =>
  findings.value.some(
    (f) => f.place[1] === row.id && (LINE_FIELDS[f.place.at(-1) ?? ''] ?? f.place.at(-1)) === key,
  )
defineExpose({ newUplink })
</script>

<template>
  <ListTable
    title="Each uplink as its provider made it"
    :columns="lineColumns"
    :rows="uplinks"
    :name-of="(u) => u.name"
    empty="No uplink yet."
    :focus-at="lineAt"
    :trouble="lineTrouble"
  >
    <template #tools><VBtn v-if="session.edits" @click="newUplink">Add an uplink</VBtn></template>
  </ListTable>
  <p v-if="uplinkProblems" class="wrong-words" role="alert">{{ uplinkProblems }}</p>
  <ListTable
    title="Kept and enabled"
    :columns="lineMore"
    :rows="uplinks"
    :name-of="(u) => u.name"
    :add-words="uplinks.length > 0 ? 'Add another uplink' : undefined"
    empty="No uplink yet."
    :focus-at="moreAt"
    :trouble="lineTrouble"
    @add="newUplink"
    @remove="(u) => plan.change(`uplink ${u.name} removed`, '', (now) => removeUplink(now, u.id))"
  />
  <template v-if="cellularUplinks.length > 0">
    <ListTable
      title="Cellular uplinks"
      :columns="cellular"
      :rows="cellularUplinks"
      :name-of="(u) => u.name"
      empty=""
      :focus-at="cellularAt"
      :trouble="lineTrouble"
    />
    <p class="caution small">
      Antennas outside: work on roofs and masts is for people trained for heights; earthing and lightning
      protection for licensed people; local codes decide.
    </p>
  </template>
  <p class="small soft">
    A question mark stands for what nobody has found out. Passwords and PINs are never typed here: say where
    they are kept.
  </p>
</template>

<style scoped>
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  margin: 8px 0;
}
</style>
