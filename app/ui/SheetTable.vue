<script setup lang="ts" generic="Row extends { readonly id: string }">
import { useVirtualizer } from '@tanstack/vue-virtual'
import type { Problem } from '#core/util'
import CellEditor from './CellEditor.vue'
import RowFilter from './RowFilter.vue'
import TableHead from './TableHead.vue'
import type { Column } from './columns'
import { useSorting } from './sorted'
import { cellsOf, faultsOf } from './paste'
import { useRowFocus } from './row-focus'
import { usePlan } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

/**
 * A table that is edited in place: arrows move, Enter or `e` edits, Esc leaves, cells paste from a
 * spreadsheet.
 * A press on a column's head, or `s` on a cell, sorts by it: up, down, and as the plan has it. A long one can be
 * filtered by what its rows say.
 * A text is laid on the plan at each keystroke at which it is right; a wrong one is told and changes nothing.
 */
const props = defineProps<{
  columns: readonly Column<Row>[]
  rows: readonly Row[]
  label: string
  nameOf: (row: Row) => string
  readonly?: boolean
  chosen?: string
  trouble?: (row: Row, key: string) => boolean
  focusAt?: { readonly row: string; readonly column: string } | null
  /** Its order says something: it is not sorted. */
  ordered?: boolean
}>()
const emit = defineEmits<{ choose: [id: string] }>()

/** Rows from which only those in sight are drawn. */
const MANY = 120
const ROW_PX = 30
/** Rows that one looks over at a glance: more of them can be filtered. */
const FEW = 15
const plan = usePlan()
const wrap = useTemplateRef<HTMLElement>('wrap')
const { rows, held, wanted, sortedBy, sortBy } = useSorting(() => props)
const many = computed(() => rows.value.length > MANY)
const windowed = useVirtualizer(
  computed(() => ({
    count: many.value ? rows.value.length : 0,
    getScrollElement: () => wrap.value,
    estimateSize: () => ROW_PX,
    overscan: 8,
  })),
)
const drawn = computed(() =>
  many.value
    ? windowed.value.getVirtualItems().flatMap((item) => {
        const row = rows.value[item.index]
        return row ? [{ row, r: item.index }] : []
      })
    : rows.value.map((row, r) => ({ row, r })),
)
const above = computed(() => (many.value ? (windowed.value.getVirtualItems()[0]?.start ?? 0) : 0))
const below = computed(() =>
  many.value ? windowed.value.getTotalSize() - (windowed.value.getVirtualItems().at(-1)?.end ?? 0) : 0,
)
const root = useTemplateRef<HTMLTableElement>('root')
const at = reactive({ row: 0, column: 0 })
const editing = ref(false)
const text = ref('')
const started = ref('')
const problems = shallowRef<readonly Problem[]>([])
const told = ref('')
let session = 0
/** True once something was typed into the cell that is edited. */
let touched = false

watch(wanted, () => (at.row = 0))
const columnAt = (i: number) => props.columns[i] as Column<Row>
const rowAt = (i: number) => rows.value[i]
const canEdit = (i: number) => !props.readonly && columnAt(i).commit !== undefined

const cellAt = (row: number, column: number) =>
  root.value?.querySelector<HTMLElement>(`[data-cell="${row}-${column}"]`)
async function focusCell(): Promise<void> {
  await nextTick()
  if (many.value && !cellAt(at.row, at.column)) {
    windowed.value.scrollToIndex(at.row)
    await new Promise((done) => requestAnimationFrame(done))
    await nextTick()
  }
  cellAt(at.row, at.column)?.focus()
}

function choose(row: number, column: number): void {
  Object.assign(at, { row, column })
  const id = rowAt(row)?.id
  if (id !== undefined) emit('choose', id)
}

async function edit(first?: string): Promise<void> {
  const row = rowAt(at.row)
  if (!row || !canEdit(at.column)) return
  const column = columnAt(at.column)
  session++
  started.value = column.edit ? column.edit(row) : column.get(row)
  text.value = first ?? started.value
  problems.value = []
  told.value = ''
  touched = false
  held.value = rows.value.map(({ id }) => id)
  editing.value = true
  await nextTick()
  const field = cellAt(at.row, at.column)?.querySelector<HTMLInputElement | HTMLSelectElement>(
    'input, select',
  )
  field?.focus()
  if (first === undefined && field instanceof HTMLInputElement) field.select()
  if (first !== undefined) typed()
}

const sessionName = (row: Row, column: Column<Row>) => `${props.label} ${session} ${row.id} ${column.key}`
function typed(): void {
  const row = rowAt(at.row)
  const column = columnAt(at.column)
  if (!row) return
  touched = true
  problems.value = column.check?.(row, text.value.trim()) ?? []
  if (problems.value.length === 0) column.commit?.(row, text.value.trim(), sessionName(row, column))
}

const sentence = (row: Row | undefined, column: Column<Row>) =>
  `${row ? props.nameOf(row) : ''}, ${column.head}: ${problems.value.map(reasonOf).join('; ')}. Left as it was.`

/** Puts back what stood in the cell, without a step to undo where typing made one. */
function takeBack(row: Row, column: Column<Row>): void {
  const name = sessionName(row, column)
  if (plan.dropSession(name)) return
  if (column.check?.(row, started.value).length === 0) column.commit?.(row, started.value, name)
}

/** Ends the editing. `keep` false puts back what stood there. */
function end(keep: boolean): void {
  if (!editing.value) return
  const row = rowAt(at.row)
  const column = columnAt(at.column)
  const wrong = problems.value.length > 0
  if (wrong && keep) told.value = sentence(row, column)
  if (row && touched && (!keep || wrong)) takeBack(row, column)
  problems.value = []
  editing.value = false
  held.value = null
  const now = rows.value.findIndex(({ id }) => id === row?.id)
  at.row = now === -1 ? Math.max(0, Math.min(at.row, rows.value.length - 1)) : now
}

function move(down: number, right: number): void {
  at.row = Math.max(0, Math.min(rows.value.length - 1, at.row + down))
  at.column = Math.max(0, Math.min(props.columns.length - 1, at.column + right))
  choose(at.row, at.column)
  void focusCell()
}

function keyInField(event: KeyboardEvent): void {
  event.stopPropagation()
  if (event.key === 'Escape' || event.key === 'Enter' || event.key === 'Tab') {
    if (event.key === 'Enter' && problems.value.length > 0) return
    event.preventDefault()
    end(event.key !== 'Escape')
    if (event.key === 'Tab') move(0, event.shiftKey ? -1 : 1)
    else void focusCell()
  }
}

/** Sorts by the column in focus, which stays on its row: a row that moves on the page lets go of it. */
async function sortHere(): Promise<void> {
  const id = rowAt(at.row)?.id
  sortBy(columnAt(at.column).key)
  at.row = Math.max(
    0,
    rows.value.findIndex((row) => row.id === id),
  )
  await focusCell()
}

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  Home: [0, -999],
  End: [0, 999],
}
function keyOnCell(event: KeyboardEvent): void {
  if (editing.value || event.ctrlKey || event.metaKey || event.altKey) return
  const step = ARROWS[event.key]
  if (step) move(...step)
  else if (event.key === 'Enter' || event.key === 'e' || event.key === 'F2') void edit()
  else if (event.key === 's') void sortHere()
  else if (/^[0-9]$/.test(event.key) && canEdit(at.column) && !columnAt(at.column).choices)
    void edit(event.key)
  else return
  event.preventDefault()
}

/** Cells from a spreadsheet: all of them, or none and the reason. */
async function paste(event: ClipboardEvent): Promise<void> {
  if (editing.value || props.readonly) return
  const text = event.clipboardData?.getData('text/plain').replace(/\r?\n$/, '') ?? ''
  if (text === '') return
  event.preventDefault()
  const laid = (await cellsOf(text)).flatMap((line, row) =>
    line.map((cell, column) => ({
      row: rowAt(at.row + row),
      column: props.columns[at.column + column],
      cell,
    })),
  )
  session++
  const wrong = laid.flatMap((cell) => faultsOf(cell, props.nameOf))
  told.value = wrong.length === 0 ? '' : `Nothing was pasted. ${wrong.slice(0, 3).join(' ')}`
  if (wrong.length > 0) return
  plan.asOne(`pasted ${laid.length} cells into ${props.label}`, () => {
    for (const { row, column, cell } of laid)
      if (row && column) column.commit?.(row, cell, sessionName(row, column))
  })
}

/** A row by its id, in a column by its key; without one, in the first that can be typed into. */
async function go(id: string, key: string | null): Promise<void> {
  if (!rows.value.some((r) => r.id === id)) wanted.value = ''
  const row = rows.value.findIndex((r) => r.id === id)
  const column = props.columns.findIndex((c) => (key === null ? c.commit !== undefined : c.key === key))
  if (row === -1) return
  choose(row, Math.max(0, column))
  await focusCell()
  cellAt(at.row, at.column)?.scrollIntoView({ block: 'nearest' })
}
useRowFocus(
  () => root.value,
  () => ({ rows: props.rows, focusAt: props.focusAt ?? null }),
  go,
)
</script>

<template>
  <div>
    <RowFilter
      v-if="props.rows.length > FEW || wanted"
      v-model="wanted"
      :label="label"
      :shown="rows.length"
      :all="props.rows.length"
    />
    <VTable class="bare">
      <template #wrapper>
        <div ref="wrap" class="wrap" :class="{ many }">
          <table
            ref="root"
            class="ruled"
            role="grid"
            :aria-label="label"
            :aria-rowcount="props.rows.length + 1"
            @keydown="keyOnCell"
            @paste="paste"
          >
            <TableHead :columns="columns" :sorted-by="sortedBy" :ordered="ordered" @sort="sortBy" />
            <tbody>
              <tr v-if="above > 0" aria-hidden="true">
                <td :colspan="columns.length" class="gap" :style="{ height: `${above}px` }" />
              </tr>
              <tr
                v-for="{ row, r } in drawn"
                :key="row.id"
                :aria-rowindex="r + 2"
                :class="{ chosen: row.id === chosen, trouble: columns.some((c) => trouble?.(row, c.key)) }"
                :aria-selected="row.id === chosen"
              >
                <td
                  v-for="(column, c) in columns"
                  :key="column.key"
                  role="gridcell"
                  :data-cell="`${r}-${c}`"
                  :tabindex="r === at.row && c === at.column ? 0 : -1"
                  :class="{
                    num: column.num,
                    mono: column.mono,
                    fixed: !canEdit(c),
                    wrong: trouble?.(row, column.key),
                    strong: column.strong,
                    wraps: column.wraps,
                    clips: column.clips,
                  }"
                  :aria-readonly="!canEdit(c)"
                  @focus="choose(r, c)"
                  @click="choose(r, c)"
                  @dblclick="(choose(r, c), edit())"
                >
                  <CellEditor
                    v-if="editing && r === at.row && c === at.column"
                    v-model="text"
                    :label="column.head"
                    :choices="column.choices?.(row) ?? null"
                    :offers="column.offers?.(row) ?? null"
                    :single="column.offersOne ?? false"
                    :problems="problems"
                    @typed="typed"
                    @key="keyInField"
                    @leave="end(true)"
                  />
                  <slot v-else :name="column.key" :row="row">{{ column.get(row) }}</slot>
                </td>
              </tr>
              <tr v-if="below > 0" aria-hidden="true">
                <td :colspan="columns.length" class="gap" :style="{ height: `${below}px` }" />
              </tr>
              <tr v-if="props.rows.length > 0 && rows.length === 0">
                <td :colspan="columns.length" class="soft">No row matches.</td>
              </tr>
              <tr v-if="props.rows.length === 0">
                <td :colspan="columns.length" class="soft"><slot name="empty">Nothing here yet.</slot></td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
    </VTable>
    <p v-if="told" class="wrong-words told" role="alert">{{ told }}</p>
    <p v-if="many" class="small soft">{{ props.rows.length.toLocaleString('en') }} rows</p>
  </div>
</template>

<style scoped>
.wrap {
  overflow-x: auto;
  padding-bottom: 24px;
  margin-bottom: -20px;
}
.wrap.many {
  overflow-y: auto;
  max-height: 640px;
  margin-bottom: 0;
  padding-bottom: 0;
}
.wrap.many :deep(thead th) {
  position: sticky;
  top: 0;
  z-index: 3;
  background: var(--panel);
}
td.gap {
  padding: 0;
  border: 0;
}
td {
  padding-left: 6px;
  padding-right: 6px;
  position: relative;
  white-space: nowrap;
  cursor: default;
}
td.strong {
  font-weight: 700;
}
td.clips {
  max-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
td.wraps {
  white-space: normal;
  min-width: 76px;
}
td:focus-visible {
  outline-offset: -2px;
}
td.wrong {
  box-shadow: inset 0 0 0 2px var(--brick);
}
tr.chosen > td {
  background: var(--shallow);
}
tr.chosen.trouble > td {
  background: var(--trouble);
}
.told {
  padding: 6px 0;
}
</style>
