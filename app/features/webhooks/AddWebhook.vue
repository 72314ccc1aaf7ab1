<script setup lang="ts">
import { WEBHOOK_EVENTS, type WebhookEvent } from '#contracts/webhooks'
import type { Problem } from '#core/util'
import AppDialog from '~/ui/AppDialog.vue'
import { reasonOf } from '~/wording/problems'
import { EVENT_WORDS } from './words'

/** Where messages go, and of what. */
const open = defineModel<boolean>({ required: true })
const { add } = defineProps<{
  add: (url: string, events: readonly WebhookEvent[]) => Promise<readonly Problem[]>
}>()
const url = ref('')
const events = ref<WebhookEvent[]>([...WEBHOOK_EVENTS])
const choices = WEBHOOK_EVENTS.map((value) => ({ value, label: EVENT_WORDS[value] }))
const problems = shallowRef<readonly Problem[]>([])
const isReady = computed(() => url.value.trim() !== '' && events.value.length > 0)
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
watch(open, () => {
  url.value = ''
  events.value = [...WEBHOOK_EVENTS]
  problems.value = []
})

async function keep(): Promise<void> {
  if (!isReady.value) return
  problems.value = await add(url.value.trim(), events.value)
  if (problems.value.length === 0) open.value = false
}
</script>

<template>
  <AppDialog v-model="open" title="Add a webhook" :width="520" @submit="keep">
    <VTextField
      ref="first"
      v-model="url"
      label="URL"
      type="url"
      maxlength="500"
      placeholder="https://tickets.example/able-mast"
      hint="Messages are posted there as JSON, over https, to a public address."
      persistent-hint
      required
    />
    <fieldset>
      <legend>Tell it when</legend>
      <VCheckbox
        v-for="{ value, label } in choices"
        :key="value"
        v-model="events"
        :value="value"
        :label="label"
        hide-details
      />
    </fieldset>
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not added: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="open = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="!isReady">Add it</VBtn>
    </template>
  </AppDialog>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 12px 0 0;
}
</style>
