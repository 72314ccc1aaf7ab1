<script setup lang="ts">
/** A table on paper, with its heading; a sentence where there is nothing in it. */
defineProps<{
  title: string
  heads: readonly string[]
  rows: readonly (readonly string[])[]
  none: string
}>()
</script>

<template>
  <h2>{{ title }}</h2>
  <p v-if="rows.length === 0" class="soft">{{ none }}</p>
  <VTable v-else class="ruled">
    <thead>
      <tr>
        <th v-for="(head, i) in heads" :key="i">{{ head }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(row, r) in rows" :key="r">
        <td v-for="(cell, i) in row" :key="i">{{ cell }}</td>
      </tr>
    </tbody>
  </VTable>
</template>
