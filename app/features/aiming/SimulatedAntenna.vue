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
const SWEEP_DEG = 30
const NOD_DEG = 10
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
    <label
      >Sideways <span class="mono">{{ degrees(aim.azimuthDeg) }} true</span>
      <VSlider
        v-model="aside.azimuthDeg"
        :min="-SWEEP_DEG"
        :max="SWEEP_DEG"
        :step="0.5"
        aria-label="Sideways, degrees from where it has to look"
    /></label>
    <label
      >Up and down <span class="mono">{{ degrees(aim.tiltDeg) }}</span>
      <VSlider
        v-model="aside.tiltDeg"
        :min="-NOD_DEG"
        :max="NOD_DEG"
        :step="0.5"
        aria-label="Up and down, degrees from where it has to look"
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
