<script setup lang="ts">
import type { Plan } from '#core/schema'
import { isNothing } from '#core/filter'
import type { FlowChange } from '#core/reachability'
import { servicesText } from '~/wording/cells'
import { namesIn } from '~/wording/names'

/** Which flows opened and which closed, cell by cell. */
const props = defineProps<{ flows: readonly FlowChange[]; plan: Plan; none: string; some: string }>()
const MOST_FLOWS = 12
const lines = computed(() => {
  const names = namesIn(props.plan)
  const say = (verb: string, set: FlowChange['opened']) =>
    isNothing(set) ? [] : [`${verb} ${servicesText(set, props.plan.services)}`]
  return props.flows.map(
    (change) =>
      `${names.key(change.from)} to ${names.key(change.to)}: ` +
      `${[...say('opened', change.opened), ...say('closed', change.closed)].join('; ')}`,
  )
})
</script>

<template>
  <div>
    <p class="small">
      <b>{{ lines.length === 0 ? none : some }}</b>
    </p>
    <ul v-if="lines.length > 0">
      <li v-for="f in lines.slice(0, MOST_FLOWS)" :key="f">{{ f }}</li>
      <li v-if="lines.length > MOST_FLOWS" class="soft">and {{ lines.length - MOST_FLOWS }} more</li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 16px;
}
</style>
