<script setup lang="ts">
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
  <label class="press file"
    >Choose a file<input class="sr" type="file" accept=".csv,.conf,text/csv,text/plain" @change="readFile"
  /></label>
  <label
    ><span class="label">or paste it</span
    ><textarea v-model="text" class="field mono" rows="5" spellcheck="false" :placeholder="placeholder" />
  </label>
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
