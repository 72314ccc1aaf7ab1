<script setup lang="ts">
import { mdiContentCopy } from '@mdi/js'
import { useClipboard } from '@vueuse/core'
import { laptopLines, type StepCard } from '#core/schedule'
import CopiedValues from './CopiedValues.vue'
import { fieldName, shownValues, valueText } from './words'
import { usePlan } from '~/stores/plan'

/** The exact values of a step. */
const { card } = defineProps<{ card: StepCard }>()
const plan = usePlan()
const { copy } = useClipboard({ legacy: true })
const command = ref('ip')
const rows = computed(() =>
  shownValues(card).map(({ field, value }) => ({ name: fieldName(field), value: valueText(field, value) })),
)
const lines = computed(() => (card.bench?.laptop ? laptopLines(card.bench.laptop) : []))
const line = computed(() => lines.value.find((each) => each.command === command.value))
const apart = computed(() =>
  (card.bench?.notWith ?? []).map((id) => plan.index?.devices.get(id)?.name ?? id).join(', '),
)
</script>

<template>
  <CopiedValues v-if="rows.length > 0" :rows="rows" />
  <section v-if="line" class="lines">
    <VRadioGroup v-model="command" inline label="On the laptop, with the command it has">
      <VRadio v-for="each in lines" :key="each.command" :value="each.command" :label="each.command" />
    </VRadioGroup>
    <p class="mono line">
      <span>{{ line.set }}</span>
      <VBtn variant="text" :icon="mdiContentCopy" aria-label="Copy the line" @click="copy(line.set)" />
    </p>
    <p class="small soft">and afterwards, to put it back on automatic</p>
    <p class="mono line">
      <span>{{ line.back }}</span>
      <VBtn variant="text" :icon="mdiContentCopy" aria-label="Copy the line back" @click="copy(line.back)" />
    </p>
    <p class="small soft">The network card may have another name on your laptop.</p>
  </section>
  <p v-if="apart" class="wrong-words">Not on at the same time: {{ apart }}.</p>
  <p v-if="card.bench?.isGateway" class="wrong-words">
    Not plugged into the live site yet: its factory address is that of a gateway there.
  </p>
  <ul v-if="card.lights.length > 0" class="small lights">
    <li v-for="light in card.lights" :key="light.shows">
      <b>{{ light.shows }}</b>: {{ light.means }}
    </li>
  </ul>
</template>

<style scoped>
.line {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  background: var(--panel);
  border: 1px solid var(--line);
  padding: 2px 2px 2px 8px;
  overflow-wrap: anywhere;
}
.lights {
  padding-left: 18px;
}
</style>
