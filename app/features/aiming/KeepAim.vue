<script setup lang="ts">
import type { AcceptanceTest } from '#core/prove'
import { fixedWords, wholeDbm } from './words'
import { useSite } from '~/stores/site'
import { decimal, orNothing, ruleOf, signed } from '~/ui/columns'
import { sentenceOf } from '~/wording/problems'

/** How an antenna was left: kept as the result of the test of that end. */
const props = defineProps<{
  test: AcceptanceTest
  deviceName: string
  dBm: number
  passed: boolean
  farDbm: number | null
}>()
const emit = defineEmits<{ kept: [] }>()
const site = useSite()
const form = reactive({ compass: '', tilt: '', torque: '', note: '' })
const RULES = {
  compass: ruleOf(orNothing([''], decimal(360))),
  tilt: ruleOf(orNothing([''], signed(-90, 90))),
  torque: ruleOf(orNothing([''], decimal(500))),
}
const isReady = computed(() =>
  (['compass', 'tilt', 'torque'] as const).every((field) => RULES[field](form[field]) === true),
)

async function keep(): Promise<void> {
  if (!isReady.value) return
  const good = await site.record({
    testId: props.test.id,
    passed: props.passed,
    vantage: `At ${props.deviceName}`.slice(0, 120),
    value: `${Math.round(props.dBm)} dBm`,
    note: fixedWords({ ...form, farDbm: props.farDbm }),
  })
  if (good) emit('kept')
}
</script>

<template>
  <form class="keep" @submit.prevent="keep">
    <div class="three">
      <VTextField v-model="form.compass" label="Compass, °" inputmode="decimal" :rules="[RULES.compass]" />
      <VTextField v-model="form.tilt" label="Tilt, °" :rules="[RULES.tilt]" />
      <VTextField v-model="form.torque" label="Torque, Nm" inputmode="decimal" :rules="[RULES.torque]" />
    </div>
    <VTextarea v-model="form.note" label="Note" rows="1" auto-grow maxlength="800" />
    <VBtn type="submit" variant="flat" block :disabled="!isReady"
      >Keep {{ wholeDbm(dBm) }} as {{ passed ? 'passed' : 'failed' }}</VBtn
    >
    <p v-for="(p, i) in site.problems" :key="i" class="wrong-words" role="alert">
      Not kept: {{ sentenceOf(p) }}
    </p>
  </form>
</template>

<style scoped>
.keep {
  display: grid;
  gap: 10px;
}
.three {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
</style>
