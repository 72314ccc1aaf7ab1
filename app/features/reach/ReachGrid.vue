<script setup lang="ts">
import type { Plan } from '#core/schema'
import { proofOfCell, type AcceptanceTest } from '#core/prove'
import { groupCell, type RowGroup, type MatrixCell, type CellAt } from '#core/reachability'
import StatusFlag from '~/ui/StatusFlag.vue'
import { useCellArrows } from '~/ui/cell-arrows'
import { cellLook, changeLook } from '~/wording/cells'
import { namesIn } from '~/wording/names'

/**
 * Rows are from, columns are to.
 * Arrow keys move, Enter opens the walk.
 * `other`: the cells of another weather to compare with.
 */
const props = defineProps<{
  plan: Plan
  rows: readonly RowGroup[]
  columns: readonly RowGroup[]
  at: CellAt
  other: CellAt | null
  tests: readonly AcceptanceTest[]
  passed: ReadonlyMap<string, boolean>
  chosen: string
}>()
const emit = defineEmits<{ open: [cell: MatrixCell] }>()
const root = useTemplateRef<HTMLTableElement>('root')

const names = computed(() => namesIn(props.plan))
const first = (band: RowGroup) => names.value.key(band.keys[0] ?? '')
const more = (band: RowGroup) => (band.keys.length > 1 ? `+${band.keys.length - 1}` : '')
const long = (band: RowGroup) => band.keys.map((key) => names.value.key(key)).join(', ')
const lookOf = (cell: MatrixCell) =>
  props.other
    ? changeLook(cell, props.other(cell.from, cell.to), props.plan.services)
    : cellLook(cell, proofOfCell(props.tests, props.passed, cell.from, cell.to), props.plan.services)
const lines = computed(() =>
  props.rows.map((from) => ({
    from,
    cells: props.columns.flatMap((to) => {
      const cell = groupCell(props.at, from, to)
      return cell ? [{ to, cell, look: lookOf(cell) }] : []
    }),
  })),
)
/**
 * With many columns a number stands for its services, with very many the pennant alone; the cell's title says
 * which.
 */
const width = computed(() => {
  if (props.columns.length > 16) return 'narrow'
  if (props.columns.length > 10) return 'dense'
  return 'wide'
})
const keyOf = (cell: MatrixCell) => `${cell.from}>${cell.to}`
const sentence = (from: RowGroup, to: RowGroup, says: string) => `${long(from)} to ${long(to)}: ${says}`
const inside = (from: RowGroup, cell: MatrixCell) => from.keys.includes(cell.to)

const { focus, key, isAt } = useCellArrows(
  () => root.value,
  () => ({ rows: props.rows.length, columns: props.columns.length }),
)
function open(cell: MatrixCell, row: number, column: number): void {
  Object.assign(focus, { row, column })
  emit('open', cell)
}
</script>

<template>
  <VTable class="bare"
    ><template #wrapper
      ><div class="scroll">
        <table ref="root" class="ruled" :class="width" aria-label="Reach grid" @keydown="key">
          <thead>
            <tr>
              <th class="corner">from \ to</th>
              <th v-for="to in columns" :key="to.keys[0]" scope="col" :title="long(to)">
                <span class="head"
                  ><span>{{ first(to) }}</span> {{ more(to) }}</span
                >
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, r) in lines" :key="row.from.keys[0]">
              <th scope="row" :title="long(row.from)">
                <span class="head"
                  ><span>{{ first(row.from) }}</span> {{ more(row.from) }}</span
                >
              </th>
              <td
                v-for="({ to, cell, look }, c) in row.cells"
                :key="to.keys[0]"
                :class="{
                  own: inside(row.from, cell),
                  open: keyOf(cell) === chosen,
                  bad: look.flag === 'cut',
                }"
              >
                <button
                  v-if="cell.from !== cell.to || cell.example"
                  type="button"
                  class="plain"
                  :data-cell="`${r}-${c}`"
                  :tabindex="isAt(r, c) ? 0 : -1"
                  :aria-label="sentence(row.from, to, look.says)"
                  :aria-pressed="keyOf(cell) === chosen"
                  :title="sentence(row.from, to, look.says)"
                  @click="open(cell, r, c)"
                >
                  <StatusFlag v-if="look.flag" :state="look.flag" :says="look.says" aria-hidden="true" />
                  <span v-if="width !== 'narrow' || !look.flag">{{
                    width === 'wide'
                      ? look.text
                      : width === 'dense'
                        ? look.text.replace(' services', '')
                        : look.text === 'all'
                          ? 'all'
                          : look.text === ''
                            ? ''
                            : '·'
                  }}</span>
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div></template
    ></VTable
  >
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  table-layout: fixed;
  min-width: 700px;
}
table.narrow {
  min-width: 0;
  width: auto;
}
th {
  font-size: 12px;
  letter-spacing: -0.15px;
}
thead th {
  text-align: center;
  padding: 5px 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
th.corner,
tbody th {
  text-align: left;
  width: 108px;
  padding: 5px 4px 5px 8px;
  overflow: hidden;
  text-overflow: ellipsis;
}
th .head {
  display: flex;
  gap: 3px;
}
th .head > span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
thead th:not(.corner) .head {
  justify-content: center;
}
tbody th {
  border-bottom: 1px solid var(--hair);
}
.scroll td {
  padding: 0;
  height: 36px;
  border-left: 1px solid var(--hair);
  text-align: center;
}
td button {
  width: 100%;
  height: 36px;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 1px;
  font-size: 12px;
  line-height: 13px;
  white-space: nowrap;
  overflow: hidden;
}
.narrow th.corner,
.narrow tbody th {
  width: 82px;
  max-width: 82px;
  padding: 0 2px 0 4px;
  white-space: nowrap;
  line-height: 16px;
}
.narrow thead th:not(.corner),
.dense thead th:not(.corner) {
  height: 84px;
  padding: 2px 0;
  vertical-align: bottom;
}
.narrow thead th:not(.corner) {
  width: 20px;
}
.narrow thead .head,
.dense thead .head {
  margin: 0 auto;
  width: 16px;
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  max-height: 80px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.narrow thead th:not(.corner) .head,
.dense thead th:not(.corner) .head {
  justify-content: flex-start;
}
/* Two lines fit beside a cell, one above it does not: names stand upright there. */
.dense thead .head {
  width: 30px;
  align-items: center;
}
.dense thead .head > span {
  white-space: normal;
  line-height: 14px;
  max-height: 80px;
}
.dense tbody th {
  padding: 1px 4px 1px 8px;
}
.dense tbody th .head > span {
  white-space: normal;
  line-height: 14px;
}
.dense td,
.dense td button {
  height: 32px;
}
.narrow td,
.narrow td button {
  height: 17px;
  width: 20px;
}
.narrow td button :deep(svg) {
  height: 13px;
}
td button:hover {
  background: var(--shallow);
}
td.bad button span {
  color: var(--brick);
  font-weight: 700;
}
td.own {
  background: repeating-linear-gradient(135deg, transparent 0 5px, var(--hair) 5px 6px);
}
td.open {
  box-shadow: inset 0 0 0 2px var(--deep);
  background: var(--shallow);
}
</style>
