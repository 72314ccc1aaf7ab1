<script setup lang="ts">
import { dayText } from '~/wording/adoption'

/** A date of the calendar, ISO 8601; empty where none is chosen. */
const { label, value, readonly, clearable } = defineProps<{
  label: string
  value: string
  readonly?: boolean
  clearable?: boolean
}>()
const emit = defineEmits<{ set: [date: string] }>()
/** The calendar is fetched where a date is asked for. */
const VDateInput = defineAsyncComponent(
  async () => (await import('vuetify/components/VDateInput')).VDateInput,
)
const dateOf = (day: unknown) => (day instanceof Date ? dayText(day) : '')
</script>

<template>
  <VDateInput
    prepend-icon=""
    input-format="yyyy-mm-dd"
    :display-format="dateOf"
    first-day-of-week="1"
    :model-value="value === '' ? null : new Date(`${value}T00:00`)"
    :readonly="readonly"
    :clearable="clearable"
    :label="label"
    @update:model-value="emit('set', dateOf($event))"
  />
</template>
