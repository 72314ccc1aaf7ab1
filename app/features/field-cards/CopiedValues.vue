<script setup lang="ts">
import { mdiContentCopy } from '@mdi/js'
import { useClipboard } from '@vueuse/core'

/** Values by their names, large, each to be copied. */
defineProps<{ rows: readonly { readonly name: string; readonly value: string }[] }>()
const { copy, copied, text } = useClipboard({ legacy: true })
const hasCopied = (value: string) => copied.value && text.value === value
</script>

<template>
  <dl class="values">
    <div v-for="(row, i) in rows" :key="i">
      <dt>{{ row.name }}</dt>
      <dd class="mono">
        <span>{{ row.value }}</span>
        <VBtn
          variant="text"
          size="default"
          :icon="mdiContentCopy"
          :aria-label="`Copy ${row.name}: ${row.value}`"
          @click="copy(row.value)"
        />
        <span v-if="hasCopied(row.value)" class="small" role="status">copied</span>
      </dd>
    </div>
  </dl>
</template>

<style scoped>
.values {
  margin: 8px 0;
}
.values > div {
  border-top: 1px solid var(--hair);
  padding: 4px 0;
}
dt {
  color: var(--soft);
  font-size: 13px;
}
dd {
  margin: 0;
  font-size: 18px;
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  overflow-wrap: anywhere;
}
</style>
