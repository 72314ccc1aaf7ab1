<script setup lang="ts">
import type { Intent } from '#core/schema'
import {
  GATEWAY,
  matrixZones,
  INTERNET,
  intentCells,
  setIntentForPair,
  type IntentCell,
} from '#core/reachability'
import { useCellArrows } from '~/ui/cell-arrows'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { intentWords, meantLook } from '~/wording/cells'
import { namesIn } from '~/wording/names'

/**
 * What is meant to pass, from rows to columns: everything, nothing, or named services.
 * A pair is opened and set below the table.
 */
const plan = usePlan()
const session = useSession()
const root = useTemplateRef<HTMLTableElement>('root')
const chosen = ref<{ from: string; to: string } | null>(null)

const names = computed(() => (plan.draft ? namesIn(plan.draft) : null))
const nameOf = (key: string) => names.value?.key(key) ?? key
const keys = computed(() => (plan.draft ? matrixZones(plan.draft) : []))
const rows = computed(() => keys.value.filter((key) => key !== GATEWAY && key !== INTERNET))
const at = computed(() =>
  plan.draft ? intentCells(plan.draft) : () => ({ own: [], others: [] }) as IntentCell,
)
const services = computed(() => plan.draft?.services ?? [])
const lines = computed(() =>
  rows.value.map((from) => ({
    from,
    cells: keys.value.map((to) => ({
      to,
      look: from === to ? null : meantLook(at.value(from, to), services.value),
    })),
  })),
)
const sentence = (from: string, to: string, says: string) => `${nameOf(from)} to ${nameOf(to)}: ${says}`

const { focus, key, isAt } = useCellArrows(
  () => root.value,
  () => ({ rows: rows.value.length, columns: keys.value.length }),
)
function open(row: number, column: number): void {
  Object.assign(focus, { row, column })
  chosen.value = { from: rows.value[row] ?? '', to: keys.value[column] ?? '' }
}

const cell = computed(() => (chosen.value ? at.value(chosen.value.from, chosen.value.to) : null))
const only = computed((): Intent | null => cell.value?.own[0] ?? null)
const how = computed((): 'nothing' | 'all' | 'named' => {
  if (only.value === null) return 'nothing'
  if (only.value.services.length === 0) return 'all'
  return 'named'
})
const title = computed(() =>
  chosen.value ? `${nameOf(chosen.value.from)} to ${nameOf(chosen.value.to)}` : '',
)
function lay(services: readonly string[] | null): void {
  const pair = chosen.value
  if (!pair) return
  plan.change(
    services === null ? `nothing meant: ${title.value}` : `meant: ${title.value}`,
    `meant ${pair.from} ${pair.to}`,
    (now) => ({ ...now, intents: setIntentForPair(now, pair.from, pair.to, services, title.value) }),
  )
}
const others = computed(() =>
  names.value
    ? (cell.value?.others ?? []).map((i) =>
        intentWords(i, (end) => names.value?.selector(end) ?? '', services.value),
      )
    : [],
)
function toggle(id: string, on: boolean): void {
  const now = only.value?.services ?? []
  const next = on ? [...now, id] : now.filter((s) => s !== id)
  // The last service taken away leaves nothing, not everything.
  lay(next.length === 0 ? null : next)
}
const usual = computed(() => services.value[0]?.id)
function setHow(wanted: unknown): void {
  if (wanted === 'nothing') lay(null)
  else lay(wanted === 'named' && usual.value ? [usual.value] : [])
}
</script>

<template>
  <div v-if="plan.draft">
    <VTable class="bare"
      ><template #wrapper
        ><div class="scroll">
          <table
            ref="root"
            class="ruled"
            :class="{ many: keys.length > 16, upright: keys.length > 8 }"
            aria-label="Intent grid"
            @keydown="key"
          >
            <thead>
              <tr>
                <th class="corner">from \ to</th>
                <th v-for="to in keys" :key="to" scope="col" :title="nameOf(to)">
                  <span class="head">{{ nameOf(to) }}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(line, r) in lines" :key="line.from">
                <th scope="row" :title="nameOf(line.from)">{{ nameOf(line.from) }}</th>
                <td
                  v-for="({ to, look }, c) in line.cells"
                  :key="to"
                  :class="{
                    own: look === null,
                    open: chosen?.from === line.from && chosen.to === to,
                    derived: look?.derived,
                  }"
                >
                  <button
                    v-if="look"
                    type="button"
                    class="plain"
                    :data-cell="`${r}-${c}`"
                    :tabindex="isAt(r, c) ? 0 : -1"
                    :aria-label="sentence(line.from, to, look.says)"
                    :title="sentence(line.from, to, look.says)"
                    :aria-pressed="chosen?.from === line.from && chosen.to === to"
                    @click="open(r, c)"
                  >
                    {{ look.text }}
                  </button>
                </td>
              </tr>
            </tbody>
          </table>
        </div></template
      ></VTable
    >
    <p v-if="!chosen" class="small soft said">
      Open a pair to say what is meant to pass. Upright: an intent for this pair alone. Slanted, underlined:
      one for more than it, or for some hosts of it. A number counts services.
    </p>
    <section v-else class="pair" :aria-label="title">
      <div class="row">
        <h2>{{ title }}</h2>
        <span class="small soft">{{ only ? only.note : '' }}</span>
      </div>
      <VRadioGroup
        :model-value="how"
        :disabled="!session.edits"
        inline
        aria-label="What is meant to pass"
        @update:model-value="setHow"
      >
        <VRadio value="nothing" label="nothing" />
        <VRadio value="all" label="everything" />
        <VRadio value="named" label="named services" />
      </VRadioGroup>
      <fieldset v-if="how === 'named'" class="names" :disabled="!session.edits">
        <legend class="sr">Services</legend>
        <VCheckbox
          v-for="s in services"
          :key="s.id"
          :model-value="only?.services.includes(s.id)"
          @update:model-value="toggle(s.id, $event === true)"
          :label="s.name"
        />
      </fieldset>
      <p v-if="(cell?.own.length ?? 0) > 1" class="small soft">
        {{ cell?.own.length }} intents are for this pair; the first is set here, and nothing takes all of them
        away. The list has each.
      </p>
      <p v-if="others.length > 0" class="small soft">Also meant: {{ others.join('; ') }}.</p>
    </section>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  table-layout: fixed;
  min-width: 700px;
}
table.many {
  width: auto;
}
th {
  font-size: 12px;
  letter-spacing: -0.15px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
thead th {
  text-align: center;
  padding: 5px 1px;
}
th.corner,
tbody th {
  text-align: left;
  width: 112px;
  padding: 5px 4px 5px 8px;
  border-bottom: 1px solid var(--hair);
}
.many thead th:not(.corner) {
  width: 46px;
}
/* Names that do not fit above a cell stand upright there, on two lines. */
.upright thead th:not(.corner) {
  height: 88px;
  vertical-align: bottom;
}
.upright .head {
  display: inline-block;
  width: 30px;
  max-height: 80px;
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  line-height: 14px;
  white-space: normal;
  overflow: hidden;
  text-align: left;
}
.scroll td {
  padding: 0;
  height: 28px;
  border-left: 1px solid var(--hair);
  text-align: center;
}
td button {
  width: 100%;
  height: 28px;
  padding: 0 1px;
  font-size: 12px;
  text-align: center;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
td.derived button {
  font-style: italic;
  text-decoration: underline dotted;
  color: var(--soft);
}
td button:hover {
  background: var(--shallow);
}
td.own {
  background: repeating-linear-gradient(135deg, transparent 0 5px, var(--hair) 5px 6px);
}
td.open {
  box-shadow: inset 0 0 0 2px var(--deep);
  background: var(--shallow);
}
.pair {
  margin-top: 10px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  background: var(--panel);
}
.row {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 4px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
.names {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
}
label {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 14px;
}
.said {
  margin: 6px 0;
}
@media (max-width: 899px) {
  td,
  td button {
    height: 44px;
  }
  label {
    min-height: 44px;
  }
}
</style>
