<script setup lang="ts">
import { removeDevice } from '#core/edit'
import type { Device } from '#core/schema'
import { useDeviceColumns } from './device-columns'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import ListTable from '~/ui/ListTable.vue'

/** Every device: what it is called and is, and where it belongs. */
const emit = defineEmits<{ add: [] }>()
const plan = usePlan()
const { place } = usePointer()
const columns = useDeviceColumns()
const devices = computed(() => (plan.draft?.devices ?? []).filter(({ kind }) => kind !== 'cloud'))
/** The device that a finding speaks of, where it is not about a port of it. */
const focusAt = computed(() =>
  place.value[0] === 'devices' && place.value[3] === undefined
    ? { row: place.value[1] ?? '', column: 'name' }
    : null,
)
const remove = ({ id, name }: Device) => plan.change(`${name} removed`, '', (now) => removeDevice(now, id))
</script>

<template>
  <ListTable
    title="Devices"
    :columns="columns"
    :rows="devices"
    :name-of="(d) => d.name"
    :focus-at="focusAt"
    add-words="Add another"
    empty="No device yet."
    @add="emit('add')"
    @remove="remove"
  />
</template>
