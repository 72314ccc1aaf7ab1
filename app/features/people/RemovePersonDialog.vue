<script setup lang="ts">
import type { PersonLine } from '#contracts/accounts'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'

/** Asks before a person is removed: that cannot be undone. */
const leaving = defineModel<PersonLine | null>({ required: true })
const { remove } = defineProps<{ remove: (person: PersonLine) => Promise<void> }>()
const isOpen = openAbout(leaving)

async function confirm(): Promise<void> {
  const person = leaving.value
  leaving.value = null
  if (person) await remove(person)
}
</script>

<template>
  <AppDialog v-model="isOpen" :title="`Remove ${leaving?.name ?? ''}?`" @submit="confirm">
    <p>
      They are signed out everywhere and cannot sign in again. What they recorded stays, under their name. To
      keep them out for a while only, disable them.
    </p>
    <template #actions>
      <VBtn @click="isOpen = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat">Remove</VBtn>
    </template>
  </AppDialog>
</template>
