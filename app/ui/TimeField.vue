<script setup lang="ts">
import { mdiClockOutline } from '@mdi/js'
import { readClock } from './days'
import PickerField from './PickerField.vue'

/** A time of day: typed, or chosen on a clock. */
defineProps<{ label: string; value: string; readonly?: boolean }>()
const emit = defineEmits<{ set: [time: string] }>()
/** The clock is fetched when it is first opened. */
const VTimePicker = defineAsyncComponent(
  async () => (await import('vuetify/components/VTimePicker')).VTimePicker,
)
</script>

<template>
  <PickerField
    :label="label"
    :value="value"
    :readonly="readonly"
    :icon="mdiClockOutline"
    opens="choose on a clock"
    :parse="readClock"
    @set="emit('set', $event)"
  >
    <VTimePicker :model-value="value" format="24hr" @update:model-value="$event && emit('set', $event)" />
  </PickerField>
</template>
