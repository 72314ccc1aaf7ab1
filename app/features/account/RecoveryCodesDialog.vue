<script setup lang="ts">
import { mdiContentCopy } from '@mdi/js'
import { useClipboard } from '@vueuse/core'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'

/** Recovery codes: shown this once. */
const codes = defineModel<readonly string[] | null>({ required: true })
const isOpen = openAbout(codes)
const { copy, copied } = useClipboard({ source: () => (codes.value ?? []).join('\n'), legacy: true })
</script>

<template>
  <AppDialog v-model="isOpen" title="Recovery codes" :width="460" persistent @submit="isOpen = false">
    <p>
      Each signs you in once, with your password, when you have neither app nor passkey. Keep them where your
      password is not. They are not shown again.
    </p>
    <ul class="mono codes" aria-label="Recovery codes">
      <li v-for="code in codes" :key="code">{{ code }}</li>
    </ul>
    <template #actions>
      <VBtn :prepend-icon="mdiContentCopy" @click="copy()">{{ copied ? 'Copied' : 'Copy' }}</VBtn>
      <VBtn type="submit" variant="flat">I have kept them</VBtn>
    </template>
  </AppDialog>
</template>

<style scoped>
.codes {
  columns: 2;
  padding: 0;
  list-style: none;
  font-size: 16px;
  line-height: 28px;
}
</style>
