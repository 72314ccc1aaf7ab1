<script setup lang="ts">
import type { Plan } from '#core/model'
import { proofOfCell, type AcceptanceTest } from '#core/prove'
import type { Cell, Grid } from '#core/reach'
import PennantMark from '~/components/PennantMark.vue'
import { cellLook } from '~/wording/cells'
import { namesIn } from '~/wording/reach'

/** Rows are from, columns are to. Arrow keys move, Enter opens the walk. */
const props = defineProps<{ plan: Plan; grid: Grid; tests: readonly AcceptanceTest[]; passed: ReadonlyMap<string, boolean>; chosen: string }>()
const emit = defineEmits<{ open: [cell: Cell] }>()
const root = useTemplateRef<HTMLTableElement>('root')
const at = reactive({ row: 0, column: 1 })

const names = computed(() => namesIn(props.plan))
const rows = computed(() => props.grid.keys.map((from) => ({
  from,
  cells: props.grid.keys.map((to) => {
    const cell = props.grid.cells.find((c) => c.from === from && c.to === to) as Cell
    return { cell, look: cellLook(cell, proofOfCell(props.tests, props.passed, from, to), props.plan.services) }
  }),
})))
/** With many columns a number stands for its services; the cell's title says which. */
const dense = computed(() => props.grid.keys.length > 10)
const keyOf = (cell: Cell) => `${cell.from}>${cell.to}`
const sentence = (cell: Cell, says: string) => `${names.value.key(cell.from)} to ${names.value.key(cell.to)}: ${says}`

const STEPS: Readonly<Record<string, readonly [number, number]>> = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }
async function key(event: KeyboardEvent): Promise<void> {
  const step = STEPS[event.key]
  if (!step) return
  event.preventDefault()
  const last = props.grid.keys.length - 1
  at.row = Math.max(0, Math.min(last, at.row + step[0]))
  at.column = Math.max(0, Math.min(last, at.column + step[1]))
  await nextTick()
  root.value?.querySelector<HTMLElement>(`[data-cell="${at.row}-${at.column}"]`)?.focus()
}
function open(cell: Cell, row: number, column: number): void {
  Object.assign(at, { row, column })
  emit('open', cell)
}
</script>

<template>
  <div class="scroll">
    <table ref="root" class="ruled" aria-label="Reach grid" @keydown="key">
      <thead><tr><th class="corner">from \ to</th><th v-for="to in grid.keys" :key="to" scope="col" :title="names.key(to)">{{ names.key(to) }}</th></tr></thead>
      <tbody>
        <tr v-for="(row, r) in rows" :key="row.from">
          <th scope="row" :title="names.key(row.from)">{{ names.key(row.from) }}</th>
          <td v-for="({ cell, look }, c) in row.cells" :key="cell.to" :class="{ own: cell.from === cell.to, open: keyOf(cell) === chosen, bad: look.pennant === 'cut' }">
            <button v-if="cell.from !== cell.to || cell.example" type="button" class="plain" :data-cell="`${r}-${c}`" :tabindex="r === at.row && c === at.column ? 0 : -1" :aria-label="sentence(cell, look.says)" :aria-pressed="keyOf(cell) === chosen" :title="sentence(cell, look.says)" @click="open(cell, r, c)">
              <PennantMark v-if="look.pennant" :state="look.pennant" :says="look.says" aria-hidden="true" />
              <span>{{ dense ? look.text.replace(' services', '') : look.text }}</span>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll { overflow-x: auto; }
table { table-layout: fixed; min-width: 700px; }
th { font-size: 12px; letter-spacing: -0.15px; }
thead th { text-align: center; padding: 5px 0; overflow: hidden; text-overflow: ellipsis; }
th.corner, tbody th { text-align: left; width: 108px; padding: 5px 4px 5px 8px; overflow: hidden; text-overflow: ellipsis; }
tbody th { border-bottom: 1px solid var(--hair); }
td { padding: 0; height: 36px; border-left: 1px solid var(--hair); text-align: center; }
td button { width: 100%; height: 36px; display: flex; flex-direction: column; align-items: center; justify-content: center; gap: 1px; font-size: 12px; line-height: 13px; white-space: nowrap; overflow: hidden; }
td button:hover { background: var(--shallow); }
td.bad button span { color: var(--brick); font-weight: 700; }
td.own { background: repeating-linear-gradient(135deg, transparent 0 5px, var(--hair) 5px 6px); }
td.open { box-shadow: inset 0 0 0 2px var(--deep); background: var(--shallow); }
</style>
