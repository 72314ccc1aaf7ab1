<script setup lang="ts">
import { mdiClockOutline } from '@mdi/js'
import { readClock } from './days'
import { ruleOf } from './columns'

/** A time of day: typed, or chosen on a clock. What is not a time stays in the field, with the reason. */
const { label, value, readonly } = defineProps<{ label: string; value: string; readonly?: boolean }>()
const emit = defineEmits<{ set: [time: string] }>()
/** The clock is fetched when it is first opened. */
const VTimePicker = defineAsyncComponent(
  async () => (await import('vuetify/components/VTimePicker')).VTimePicker,
)
const opened = ref(false)
const typed = ref('')
watch(
  () => value,
  (now) => (typed.value = now),
  { immediate: true },
)
const isTime = ruleOf(readClock)
function take(text: string): void {
  typed.value = text
  if (isTime(text) === true) emit('set', text.trim())
}
</script>

<template>
  <VTextField
    :model-value="typed"
    :label="label"
    class="mono"
    maxlength="5"
    autocomplete="off"
    :readonly="readonly"
    :rules="[isTime]"
    @update:model-value="take"
  >
    <template v-if="!readonly" #append-inner>
      <VMenu v-model="opened" :close-on-content-click="false">
        <template #activator="{ props: activator }">
          <VBtn
            v-bind="activator"
            variant="text"
            density="compact"
            :icon="mdiClockOutline"
            :aria-label="`${label}: choose on a clock`"
          />
        </template>
        <VTimePicker
          v-if="opened"
          :model-value="value"
          format="24hr"
          @update:model-value="take($event ?? '')"
        />
      </VMenu>
    </template>
  </VTextField>
</template>
