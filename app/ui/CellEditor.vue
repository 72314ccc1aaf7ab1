<script setup lang="ts">
import type { Problem } from '#core/util'
import { reasonOf } from '~/wording/problems'

/**
 * The field of a cell that is edited: a list of choices, or text with what is wrong of it.
 * Choices are a native list: a telephone shows it as its own, and keys choose without opening it.
 */
defineProps<{
  label: string
  choices: readonly string[] | null
  problems: readonly Problem[]
}>()
const text = defineModel<string>({ required: true })
const emit = defineEmits<{ typed: []; key: [event: KeyboardEvent]; leave: [] }>()
</script>

<template>
  <select
    v-if="choices"
    v-model="text"
    class="editor"
    :aria-label="label"
    @change="emit('typed')"
    @keydown="emit('key', $event)"
    @blur="emit('leave')"
  >
    <option v-for="choice in choices" :key="choice" :value="choice">{{ choice }}</option>
  </select>
  <VTextField
    v-else
    v-model="text"
    class="editor"
    variant="plain"
    :aria-label="label"
    :aria-invalid="problems.length > 0"
    :class="{ bad: problems.length > 0 }"
    spellcheck="false"
    @update:model-value="emit('typed')"
    @keydown="emit('key', $event)"
    @blur="emit('leave')"
  />
  <span v-if="problems.length > 0" class="why" role="alert">{{ problems.map(reasonOf).join('; ') }}</span>
</template>

<style scoped>
.editor {
  position: absolute;
  inset: 0;
  width: 100%;
  min-width: 60px;
  border: 2px solid var(--deep);
  background: var(--panel);
  border-radius: 0;
  outline: 0;
  text-align: inherit;
  font: inherit;
}
select.editor {
  padding: 3px 7px;
}
.editor :deep(.v-field) {
  background: none;
  font: inherit;
}
.editor :deep(.v-field__input) {
  min-height: 0;
  padding: 0 7px;
  text-align: inherit;
  line-height: inherit;
}
.editor.bad {
  border-color: var(--brick);
}
.why {
  position: absolute;
  z-index: 5;
  left: 0;
  top: 100%;
  background: var(--brick);
  color: var(--panel);
  padding: 2px 8px;
  font: 400 13px/18px var(--v-font-body);
  white-space: nowrap;
}
</style>
