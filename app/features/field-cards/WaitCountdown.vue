<script setup lang="ts">
import { useTimestamp } from '@vueuse/core'
import type { TimetableRow } from '#core/schedule'
import { countdownText } from './words'
import { sound } from '~/ui/tone'

/** A wait that runs: what is left of it, and from when on to worry; its end is heard and felt. */
const { row, since } = defineProps<{ row: TimetableRow; since: string }>()
const nowMs = useTimestamp({ interval: 500 })
const goneS = computed(() => Math.max(0, (nowMs.value - Date.parse(since)) / 1000))
const leftS = computed(() => row.duration.usualMin * 60 - goneS.value)
const isLate = computed(() => goneS.value > row.duration.worstMin * 60)
/** Pitch of the end, and of the time to worry. */
const [END_HZ, LATE_HZ] = [660, 330]
function alert(hz: number): void {
  sound(hz, 0.4)
  if ('vibrate' in navigator) navigator.vibrate([200, 100, 200])
}
watch(
  () => leftS.value <= 0,
  (isOver, wasOver) => isOver && wasOver === false && alert(END_HZ),
)
watch(isLate, (late, wasLate) => late && wasLate === false && alert(LATE_HZ))
</script>

<template>
  <p class="countdown" role="timer" :class="{ late: isLate }">
    <b class="mono">{{ countdownText(leftS) }}</b>
    <span v-if="isLate">longer than {{ row.duration.worstMin }} min: something is not as it should be</span>
    <span v-else>usually {{ row.duration.usualMin }} min; worry after {{ row.duration.worstMin }}</span>
  </p>
</template>

<style scoped>
.countdown {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.countdown b {
  font-size: 28px;
}
.late {
  color: var(--brick);
}
</style>
