<script setup lang="ts">
import { mdiPaperclip } from '@mdi/js'

import CodeEditor from './CodeEditor.vue'
import type { TextMistake } from './code/editor'

/** A list from a spreadsheet, or a program's file: chosen, or pasted. One that is too large is not read. */
withDefaults(defineProps<{ placeholder: string; mistakes?: readonly TextMistake[] }>(), {
  mistakes: () => [],
})
const text = defineModel<string>({ required: true })
const MOST_BYTES = 1_000_000
const tooLarge = ref(false)

async function readFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  tooLarge.value = (file?.size ?? 0) > MOST_BYTES
  if (file) text.value = tooLarge.value ? '' : await file.text()
  input.value = ''
}
</script>

<template>
  <VFileInput
    label="Choose a file"
    density="compact"
    variant="outlined"
    :prepend-icon="''"
    :prepend-inner-icon="mdiPaperclip"
    accept=".csv,.conf,.geojson,.json,text/csv,text/plain"
    @change="readFile"
  />
  <p class="small soft">or paste it:</p>
  <CodeEditor
    v-model="text"
    label="or paste it"
    grammar="settings"
    :placeholder="placeholder"
    :mistakes="mistakes"
  />
  <p v-if="tooLarge" class="wrong-words" role="alert">That file is larger than 1 MB; it was not read.</p>
</template>

<style scoped>
.file {
  justify-self: start;
}
.file:focus-within {
  outline: 2px solid var(--deep);
}
</style>
