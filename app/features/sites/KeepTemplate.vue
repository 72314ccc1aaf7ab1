<script setup lang="ts">
import { mdiContentSaveOutline } from '@mdi/js'
import type { Problem } from '#core/util'
import { usePlan } from '~/stores/plan'
import AppDialog from '~/ui/AppDialog.vue'
import { name, ruleOf } from '~/ui/columns'
import { reasonOf } from '~/wording/problems'
import { keepTemplate } from './new-site'

/** Keeps the plan for sites to come. */
const plan = usePlan()
const open = ref(false)
const wanted = ref('')
const busy = ref(false)
const kept = ref('')
const refused = shallowRef<readonly Problem[]>([])
const rule = ruleOf(name)
const isReady = computed(() => rule(wanted.value) === true && !busy.value)
watch(wanted, () => (refused.value = []))

function begin(): void {
  wanted.value = plan.draft?.site.name ?? ''
  refused.value = []
  open.value = true
}
async function keep(): Promise<void> {
  if (!isReady.value) return
  busy.value = true
  // The server keeps the plan that it has, which must be the one on the screen.
  const isSaved = await plan.flush()
  const answer = isSaved ? await keepTemplate(plan.slug, wanted.value.trim()) : null
  refused.value = answer?.ok ? [] : (answer?.refusal.problems ?? plan.problems)
  busy.value = false
  if (!answer?.ok) return
  kept.value = answer.value.name
  open.value = false
}
</script>

<template>
  <div class="keep">
    <VBtn :prepend-icon="mdiContentSaveOutline" @click="begin">Save as a template</VBtn>
    <span class="soft" role="status">
      <template v-if="kept">Saved as {{ kept }}: New site offers it under Start with.</template>
    </span>
    <AppDialog v-model="open" title="Save as a template" :width="520" @submit="keep">
      <VTextField v-model="wanted" autofocus label="Name of the template" maxlength="60" :rules="[rule]" />
      <p class="soft">
        Networks, devices, rules and all else are saved as they are now. Serial numbers, MAC addresses and
        keys are left out. Later changes of this site do not change the template.
      </p>
      <p v-if="refused.length > 0" class="wrong-words" role="alert">
        Not saved: {{ refused.map(reasonOf).join('; ') }}.
      </p>
      <template #actions>
        <VBtn type="submit" color="primary" variant="flat" :disabled="!isReady" :loading="busy">Save</VBtn>
        <VBtn @click="open = false">Cancel</VBtn>
      </template>
    </AppDialog>
  </div>
</template>

<style scoped>
.keep {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  padding-bottom: 8px;
}
</style>
