<script setup lang="ts" generic="Row extends { readonly id: string }">
import SheetTable from './SheetTable.vue'
import type { Column } from './columns'
import { useSession } from '~/stores/session'

/** A table whose rows can be added and removed: the heading, the button, the table. */
const props = defineProps<{
  title: string
  columns: readonly Column<Row>[]
  rows: readonly Row[]
  nameOf: (row: Row) => string
  addWords?: string
  empty: string
  focusAt?: { readonly row: string; readonly column: string } | null
  trouble?: (row: Row, key: string) => boolean
  /** Its order says something: it is not sorted. */
  ordered?: boolean
}>()
const emit = defineEmits<{ add: []; remove: [row: Row] }>()
const session = useSession()
const columns = computed((): readonly Column<Row>[] =>
  session.edits && props.addWords
    ? [...props.columns, { key: 'remove', head: '', get: () => '', width: '76px' }]
    : props.columns,
)
</script>

<template>
  <section data-list>
    <div class="under">
      <h2>{{ title }}</h2>
      <slot name="tools" />
      <VBtn v-if="session.edits && addWords" @click="emit('add')">
        {{ addWords }}
      </VBtn>
    </div>
    <SheetTable
      :columns="columns"
      :rows="rows"
      :label="title"
      :name-of="nameOf"
      :readonly="!session.edits"
      :focus-at="focusAt ?? null"
      :trouble="trouble"
      :ordered="ordered"
    >
      <template #remove="{ row }"
        ><VBtn variant="text" @click="emit('remove', row)">
          Remove<span class="sr"> {{ nameOf(row) }}</span>
        </VBtn></template
      >
      <template #empty>{{ empty }}</template>
    </SheetTable>
  </section>
</template>

<style scoped>
.under {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin: 10px 0 6px;
}
.under h2 {
  margin-right: auto;
}
</style>
