<script setup lang="ts" generic="Row extends { readonly id: string }">
import { mdiArrowDown, mdiArrowUp } from '@mdi/js'
import RowFilter from './RowFilter.vue'
import type { Column } from './columns'
import { compareTexts, rowsWith } from './sorted'

/**
 * A table that is only read: a press on a column's head, or Enter on it, sorts by it; a long one can be filtered
 * by what its rows say, and is drawn only as far as it is in sight.
 * A row in `opened` shows the slot `detail` below it.
 */
const props = defineProps<{
  columns: readonly Column<Row>[]
  rows: readonly Row[]
  label: string
  empty: string
  trouble?: (row: Row) => boolean
  opened?: string
  /** Its order says something: it is not sorted. */
  ordered?: boolean
  /** Can be filtered however few its rows are. */
  searched?: boolean
}>()

/** Rows that one looks over at a glance: more of them can be filtered. */
const FEW = 15
/** Rows from which the table scrolls by itself. */
const MANY = 100
const HEIGHT_PX = 640
const wanted = ref('')
const shown = computed(() => rowsWith(props.rows, props.columns, wanted.value ?? ''))
const expanded = computed(() => (props.opened ? [props.opened] : []))
const headers = computed(() =>
  props.columns.map((column) => ({
    key: column.key,
    title: column.head,
    value: (row: Row) => column.get(row),
    sort: compareTexts,
    sortable: !props.ordered && column.head !== '',
    align: column.num ? ('end' as const) : ('start' as const),
    width: column.width,
    cellProps: {
      class: {
        mono: column.mono,
        strong: column.strong,
        nowrap: (column.mono || column.num) && !column.wraps,
      },
    },
  })),
)
const rowProps = ({ item }: { readonly item: Row }) => ({
  class: { trouble: props.trouble?.(item) ?? false, open: item.id === props.opened },
})
</script>

<template>
  <div>
    <RowFilter
      v-if="rows.length > FEW || wanted || (searched && rows.length > 1)"
      v-model="wanted"
      :label="label"
      :shown="shown.length"
      :all="rows.length"
    />
    <VDataTableVirtual
      class="ruled"
      density="compact"
      item-value="id"
      :aria-label="label"
      :headers="headers"
      :items="[...shown]"
      :expanded="expanded"
      :row-props="rowProps"
      :height="shown.length > MANY ? HEIGHT_PX : undefined"
      :fixed-header="shown.length > MANY"
      :no-data-text="wanted ? 'No row matches.' : empty"
      :sort-asc-icon="mdiArrowUp"
      :sort-desc-icon="mdiArrowDown"
      :mobile="false"
    >
      <template v-for="column in columns" :key="column.key" #[`item.${column.key}`]="{ item }">
        <slot :name="column.key" :row="item">{{ column.get(item) }}</slot>
      </template>
      <template v-if="$slots.detail" #expanded-row="{ item, columns: all }">
        <tr>
          <td :colspan="all.length">
            <div class="detail"><slot name="detail" :row="item" /></div>
          </td>
        </tr>
      </template>
    </VDataTableVirtual>
  </div>
</template>

<style scoped>
:deep(td.strong) {
  font-weight: 700;
}
:deep(td.nowrap) {
  white-space: nowrap;
}
:deep(tr.open > td) {
  background: var(--shallow);
}
/* The mark of the order stands beside the head's words, in the room between two heads. */
:deep(.v-data-table-header__content) {
  position: relative;
}
:deep(.v-data-table-header__sort-icon) {
  position: absolute;
  inset-inline-start: 100%;
  font-size: 14px;
}
:deep(.v-data-table-column--align-end .v-data-table-header__sort-icon) {
  inset-inline: auto 100%;
}
/* What stands for rows that are out of sight takes no room of its own. */
.ruled :deep(table > tbody > tr > td:only-child:empty) {
  height: 0;
  padding: 0;
  border: 0;
}
:deep(.v-data-table-rows-no-data) {
  text-align: start;
  color: var(--soft);
}
.detail {
  padding: 6px;
  overflow-wrap: anywhere;
}
</style>
