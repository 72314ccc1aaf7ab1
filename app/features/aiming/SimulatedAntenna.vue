<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import type { RadioLevel } from '#contracts/api'
import { useSite } from '~/stores/site'
import { degrees } from './words'

/** An antenna of the lab that can be turned; its radio reports once a second, as a real one would. */
const props = defineProps<{
  linkId: string
  end: RadioLevel['end']
  /** Where it has to look; degrees from true north, and above the horizon. */
  wanted: { readonly azimuthDeg: number; readonly tiltDeg: number }
}>()
const site = useSite()

const REPORT_MS = 1000
const AXES = [
  { key: 'azimuthDeg', name: 'Sideways', mostDeg: 30, after: ' true' },
  { key: 'tiltDeg', name: 'Up and down', mostDeg: 10, after: '' },
] as const
/** Where somebody who looks along the compass begins. */
const aside = reactive({ azimuthDeg: 11, tiltDeg: 0 })
watch(
  () => `${props.linkId} ${props.end}`,
  () => Object.assign(aside, { azimuthDeg: 11, tiltDeg: 0 }),
)
const aim = computed(() => ({
  azimuthDeg: (props.wanted.azimuthDeg + aside.azimuthDeg + 360) % 360,
  tiltDeg: props.wanted.tiltDeg + aside.tiltDeg,
}))
const report = () => site.turnSimulated(props.linkId, props.end, aim.value.azimuthDeg, aim.value.tiltDeg)
useIntervalFn(() => void report(), REPORT_MS, { immediateCallback: true })
</script>

<template>
  <div class="antenna">
    <p class="small soft">
      Simulated: turn it as you would turn the real one. It reports once a second, with its noise.
    </p>
    <label v-for="axis in AXES" :key="axis.key"
      >{{ axis.name }} <span class="mono">{{ degrees(aim[axis.key]) }}{{ axis.after }}</span>
      <VSlider
        v-model="aside[axis.key]"
        :min="-axis.mostDeg"
        :max="axis.mostDeg"
        :step="0.5"
        :aria-label="`${axis.name}, degrees from where it has to look`"
    /></label>
  </div>
</template>

<style scoped>
.antenna {
  display: grid;
  gap: 6px;
}
label {
  display: block;
}
</style>
