<script setup lang="ts" generic="Row extends { readonly id: string }">
import SheetTable from './SheetTable.vue'
import type { Column } from './columns'
import { useSession } from '~/stores/session'

/** A table that is edited in place, with a last column that removes a row; one that is in use stays. */
const props = defineProps<{
  columns: readonly Column<Row>[]
  rows: readonly Row[]
  label: string
  nameOf: (row: Row) => string
  /** Who uses a row, in words; nothing where it can go. */
  usedBy?: (row: Row) => string
  /** Whether a row can go at all; every row where it is not said. */
  canRemove?: (row: Row) => boolean
  trouble?: (row: Row, key: string) => boolean
  /** Its order says something: it is not sorted. */
  ordered?: boolean
  focusAt?: { readonly row: string; readonly column: string } | null
}>()
const emit = defineEmits<{ remove: [id: string]; choose: [id: string] }>()
const session = useSession()
const columns = computed((): readonly Column<Row>[] => [
  ...props.columns,
  ...(props.usedBy ? [{ key: 'used', head: 'Used by', get: (row: Row) => props.usedBy?.(row) || '—' }] : []),
  { key: 'remove', head: '', get: () => '', width: '80px' },
])
const canGo = (row: Row) =>
  session.edits && (props.usedBy?.(row) ?? '') === '' && (props.canRemove?.(row) ?? true)
</script>

<template>
  <SheetTable
    :columns="columns"
    :rows="rows"
    :label="label"
    :name-of="nameOf"
    :readonly="!session.edits"
    :trouble="trouble"
    :ordered="ordered"
    :focus-at="focusAt ?? null"
    @choose="(id) => emit('choose', id)"
  >
    <template #remove="{ row }"
      ><VBtn v-if="canGo(row)" variant="text" @click="emit('remove', row.id)">
        Remove<span class="sr"> {{ nameOf(row) }}</span>
      </VBtn></template
    >
    <template #empty><slot name="empty">Nothing here yet.</slot></template>
  </SheetTable>
</template>
