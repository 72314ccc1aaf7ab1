<script setup lang="ts">
import { mdiPaperclip } from '@mdi/js'

/** A list from a spreadsheet: a file, or pasted text. A file that is too large is not read. */
defineProps<{ placeholder: string }>()
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
    accept=".csv,.conf,text/csv,text/plain"
    @change="readFile"
  />
  <VTextarea
    label="or paste it"
    v-model="text"
    rows="5"
    spellcheck="false"
    :placeholder="placeholder"
    class="mono"
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
