<script setup lang="ts">
import type { ChangedValue } from '#core/schedule'
import { fieldName, valueText } from './words'

/** What of a card's values is another now than when it was seen, or when the step was told of. */
defineProps<{ changes: readonly ChangedValue[]; since: string }>()
</script>

<template>
  <div role="alert" class="changed">
    <p>The plan has changed {{ since }}:</p>
    <ul>
      <li v-for="(change, i) in changes" :key="i">
        {{ fieldName(change.field) }}:
        <template v-if="change.before !== null">
          <s class="mono">{{ valueText(change.field, change.before) }}</s>{{ ' ' }}
        </template>
        <b v-if="change.after !== null" class="mono">{{ valueText(change.field, change.after) }}</b>
        <template v-else>not any more</template>
      </li>
    </ul>
    <slot />
  </div>
</template>

<style scoped>
.changed {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  margin: 8px 0;
}
ul {
  padding-left: 18px;
  overflow-wrap: anywhere;
}
</style>
