<script setup lang="ts">
import { mdiCalendarBlankOutline } from '@mdi/js'
import { readDate } from './days'
import PickerField from './PickerField.vue'
import { dayText } from '~/wording/adoption'

/** A date, ISO 8601: typed, or chosen on a calendar; empty where none is wished for. */
defineProps<{ label: string; value: string; readonly?: boolean; clearable?: boolean }>()
const emit = defineEmits<{ set: [date: string] }>()
/** The calendar is fetched when it is first opened. */
const VDatePicker = defineAsyncComponent(
  async () => (await import('vuetify/components/VDatePicker')).VDatePicker,
)
const dateOf = (day: unknown) => (day instanceof Date ? dayText(day) : '')
</script>

<template>
  <PickerField
    :label="label"
    :value="value"
    :readonly="readonly"
    :clearable="clearable"
    :icon="mdiCalendarBlankOutline"
    opens="choose on a calendar"
    :parse="readDate"
    @set="emit('set', $event)"
  >
    <template #default="{ choose }">
      <VDatePicker
        :model-value="value === '' ? null : new Date(`${value}T00:00`)"
        first-day-of-week="1"
        hide-header
        @update:model-value="choose(dateOf($event))"
      />
    </template>
  </PickerField>
</template>
