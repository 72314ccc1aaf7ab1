<script setup lang="ts">
import type { SiteLine } from '#contracts/api'
import type { Problem } from '#core/util'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'
import { reasonOf } from '~/wording/problems'

/** Asks for the name of a site before it is deleted. */
const site = defineModel<SiteLine | null>({ required: true })
const { remove } = defineProps<{ remove: (site: SiteLine, name: string) => Promise<readonly Problem[]> }>()
const isOpen = openAbout(site)
const name = ref('')
const problems = shallowRef<readonly Problem[]>([])
const field = useTemplateRef<{ focus: () => void }>('field')
watch(field, (shown) => shown?.focus())
watch(site, () => {
  name.value = ''
  problems.value = []
})
const isMeant = computed(() => name.value.trim() === site.value?.name)

async function confirm(): Promise<void> {
  if (!site.value || !isMeant.value) return
  problems.value = await remove(site.value, name.value.trim())
  if (problems.value.length === 0) site.value = null
}
</script>

<template>
  <AppDialog v-model="isOpen" :title="`Delete ${site?.name ?? ''}?`" @submit="confirm">
    <p>
      Its plan, its records and its keys are gone for everybody. For 30 days an administrator can restore it
      here. To put it out of the way only, archive it.
    </p>
    <VTextField
      ref="field"
      v-model="name"
      label="Name of the site, to show that it is meant"
      autocomplete="off"
      spellcheck="false"
      maxlength="80"
    />
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not deleted: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="isOpen = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="!isMeant">Delete</VBtn>
    </template>
  </AppDialog>
</template>
