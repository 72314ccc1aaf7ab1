<script setup lang="ts">
import { mdiCheck } from '@mdi/js'

/** Under a cell's text: what it can name, several of them, with a mark at what it names. */
defineProps<{
  id: string
  label: string
  offers: readonly { readonly name: string; readonly isNamed: boolean }[]
  /** Place of the one that keys have reached; -1 for none. */
  active: number
  /** What is wrong of the text, in words; empty for nothing. */
  wrong: string
  /** The field that it stands under. */
  field: HTMLElement
}>()
const emit = defineEmits<{ toggle: [name: string] }>()
</script>

<template>
  <VOverlay
    :model-value="true"
    :target="field"
    :scrim="false"
    location-strategy="connected"
    location="bottom start"
    origin="top start"
    scroll-strategy="reposition"
    :offset="1"
    :close-on-back="false"
    persistent
    no-click-animation
    class="offers"
  >
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <ul :id="id" role="listbox" aria-multiselectable="true" :aria-label="label" @mousedown.prevent>
      <li
        v-for="({ name, isNamed }, i) in offers"
        :id="`${id}-${i}`"
        :key="name"
        role="option"
        :aria-selected="isNamed"
        :class="{ active: i === active }"
        @click="emit('toggle', name)"
      >
        <span class="mark"><VIcon v-if="isNamed" :icon="mdiCheck" size="14" /></span> {{ name }}
      </li>
    </ul>
  </VOverlay>
</template>

<style scoped>
.offers :deep(.v-overlay__content) {
  pointer-events: auto;
}
ul {
  list-style: none;
  margin: 0;
  padding: 2px 0;
  max-height: 240px;
  overflow-y: auto;
  min-width: 180px;
  border: 1px solid var(--ink);
  background: var(--panel);
}
.wrong {
  margin: 0;
  max-width: 420px;
  background: var(--brick);
  color: var(--panel);
  padding: 2px 8px;
  font-size: 13px;
  line-height: 18px;
}
li {
  padding: 3px 10px;
  cursor: pointer;
}
li:hover,
li.active {
  background: var(--shallow);
}
li.active {
  outline: 2px solid var(--deep);
  outline-offset: -2px;
}
.mark {
  display: inline-block;
  width: 14px;
}
</style>
