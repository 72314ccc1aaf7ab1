<script setup lang="ts">
import { distanceWords, wholeDbm } from './words'

/** One big number, and between nothing and what is computed: the level now and the highest so far. */
const props = defineProps<{ dBm: number | null; highestDbm: number | null; expectedDbm: number | null }>()

const FAINTEST_DBM = -100
const BEYOND_DB = 8
const topDbm = computed(() => (props.expectedDbm ?? -40) + BEYOND_DB)
const percent = (dBm: number) =>
  Math.max(0, Math.min(100, (100 * (dBm - FAINTEST_DBM)) / (topDbm.value - FAINTEST_DBM)))
const says = computed(() => {
  const { dBm, highestDbm, expectedDbm } = props
  if (dBm === null) return 'No reading yet'
  const against = expectedDbm === null ? '' : `, ${distanceWords(dBm, expectedDbm)}`
  return `${wholeDbm(dBm)}${against}; highest ${wholeDbm(highestDbm ?? dBm)}`
})
</script>

<template>
  <div class="level">
    <p class="now mono" aria-hidden="true">{{ dBm === null ? '—' : wholeDbm(dBm) }}</p>
    <p class="says">
      <template v-if="dBm !== null && expectedDbm !== null">{{ distanceWords(dBm, expectedDbm) }}</template>
      <template v-else-if="dBm === null">no reading yet</template>
    </p>
    <div class="bar" role="img" :aria-label="says">
      <span v-if="dBm !== null" class="fill" :style="{ width: `${percent(dBm)}%` }" />
      <span v-if="highestDbm !== null" class="highest" :style="{ left: `${percent(highestDbm)}%` }" />
      <span v-if="expectedDbm !== null" class="wanted" :style="{ left: `${percent(expectedDbm)}%` }" />
    </div>
    <dl>
      <div>
        <dt>Highest so far</dt>
        <dd class="mono">{{ highestDbm === null ? '—' : wholeDbm(highestDbm) }}</dd>
      </div>
      <div>
        <dt>Computed</dt>
        <dd class="mono">{{ expectedDbm === null ? '—' : wholeDbm(expectedDbm) }}</dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.level {
  border: 1px solid var(--line);
  background: var(--panel);
  padding: 10px 14px;
}
.now {
  font-size: 64px;
  line-height: 72px;
  font-weight: 700;
  text-align: center;
  white-space: nowrap;
}
.says {
  text-align: center;
  min-height: 24px;
}
.bar {
  position: relative;
  height: 28px;
  border: 1px solid var(--ink);
  margin: 8px 0;
}
.bar span {
  position: absolute;
  top: 0;
  bottom: 0;
}
.fill {
  left: 0;
  background: var(--deep);
}
.wanted {
  border-left: 3px dashed var(--magenta);
}
.highest {
  width: 0;
  border-left: 3px solid var(--ochre);
}
dl {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 2px 14px;
  margin: 0;
}
dl div {
  display: flex;
  gap: 6px;
  white-space: nowrap;
}
dt::before {
  content: '';
  display: inline-block;
  width: 0;
  height: 14px;
  margin-right: 6px;
  vertical-align: -2px;
  border-left: 3px solid var(--ochre);
}
div + div dt::before {
  border-left: 3px dashed var(--magenta);
}
dd {
  margin: 0;
  font-weight: 700;
}
</style>
