<script setup lang="ts" generic="Row">
import { mdiArrowDown, mdiArrowUp } from '@mdi/js'
import type { Column } from './columns'
import type { SortedBy } from './sorted'

/** The heads of a table's columns; a press on one sorts by it, where the table's order says nothing. */
const { sortedBy } = defineProps<{
  columns: readonly Column<Row>[]
  sortedBy: SortedBy | null
  ordered?: boolean
}>()
const emit = defineEmits<{ sort: [key: string] }>()
const ariaSort = (key: string) => {
  if (sortedBy?.column !== key) return undefined
  return sortedBy.descending ? 'descending' : 'ascending'
}
</script>

<template>
  <thead>
    <tr>
      <th
        v-for="column in columns"
        :key="column.key"
        :class="{ num: column.num, sorts: !ordered && column.head !== '' }"
        :style="{ width: column.width }"
        :aria-sort="ariaSort(column.key)"
        @click="emit('sort', column.key)"
      >
        {{ column.head }}
        <VIcon
          v-if="sortedBy?.column === column.key"
          :icon="sortedBy.descending ? mdiArrowDown : mdiArrowUp"
          size="14"
        />
      </th>
    </tr>
  </thead>
</template>

<style scoped>
th {
  white-space: normal;
  padding-left: 6px;
  padding-right: 6px;
}
th.sorts {
  cursor: pointer;
}
th.sorts:hover {
  text-decoration: underline;
}
</style>
