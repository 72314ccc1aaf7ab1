<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { comeback, outage, type Played } from '#core/failover'
import type { Probe, Uplink } from '#core/schema'

/**
 * One failure on a line of time: the fault, when it is noticed, traffic on the other line, the return.
 * Planned above, played below.
 */
const props = defineProps<{
  uplink: Uplink
  probe: Probe
  backup: Uplink
  played: readonly Played[]
  nowS: number | null
}>()
const frame = useTemplateRef<HTMLElement>('frame')
const { width: wide } = useElementSize(frame)

const LEFT = 64
const over = computed(() => outage(props.probe, props.backup))
const back = computed(() => comeback(props.probe, props.uplink.holdDownS))
/** The line is well again so long after the fault that both halves of the picture have room. */
const mendS = computed(() => Math.max(60, Math.ceil((over.value.worstS * 2.2) / 10) * 10))
const endS = computed(() => (mendS.value + back.value.worstS) * 1.12)
const x = (s: number) => LEFT + ((wide.value - LEFT - 14) * (s + endS.value * 0.04)) / (endS.value * 1.06)
const ticks = computed(() => {
  const step =
    [5, 10, 20, 30, 60, 120, 300, 600, 1200, 3600].find(
      (n) => endS.value / n <= Math.min(8, (wide.value - LEFT) / 64),
    ) ?? 7200
  return Array.from({ length: Math.floor(endS.value / step) + 1 }, (_, i) => i * step)
})
const shown = computed(() => props.played.filter((p) => props.nowS === null || p.atS <= props.nowS))
const at = (what: Played['what']) => shown.value.find((p) => p.what === what)?.atS
const round = (n: number) => String(Math.round(n * 10) / 10)
const says = computed(
  () =>
    `When ${props.uplink.name} dies, traffic is on ${props.backup.name} after ` +
    `${round(over.value.leastS)} to ${round(over.value.worstS)} s, ` +
    `${round(over.value.typicalS)} s on average. ${round(back.value.leastS)} to ` +
    `${round(back.value.worstS)} s after it is well, traffic returns.`,
)
const marks = computed(() => {
  const list = [
    { s: 0, word: 'fault' },
    { s: over.value.worstS, word: `on ${props.backup.name} for certain` },
    { s: mendS.value, word: 'well again' },
    { s: mendS.value + back.value.worstS, word: 'returned' },
  ]
  return list.map((m, i) => ({ ...m, y: i === 1 && x(m.s) - x(0) < 60 ? 24 : 12 }))
})
defineExpose({ mendS })
</script>

<template>
  <figure ref="frame">
    <svg v-if="wide > 0" :width="wide" height="150" role="img" :aria-label="says">
      <rect :x="x(0)" y="34" :width="x(over.worstS) - x(0)" height="82" class="out" />
      <rect
        :x="x(over.worstS)"
        y="34"
        :width="x(mendS + back.worstS) - x(over.worstS)"
        height="82"
        class="other"
      />
      <rect :x="x(over.leastS)" y="34" :width="x(over.worstS) - x(over.leastS)" height="82" class="maybe" />
      <g v-for="m in marks" :key="m.word">
        <line :x1="x(m.s)" :x2="x(m.s)" :y1="m.y + 4" y2="116" class="mark" />
        <text :x="Math.min(x(m.s) + 3, wide - 8 - m.word.length * 6.2)" :y="m.y" class="word">
          {{ m.word }}
        </text>
      </g>
      <text x="0" y="58" class="name">{{ uplink.name }}</text>
      <text x="0" y="88" class="name">{{ backup.name }}</text>
      <text v-if="played.length > 0" x="0" y="110" class="soft">played</text>
      <line :x1="LEFT" :x2="x(0)" y1="54" y2="54" class="carries" />
      <line :x1="x(0)" :x2="x(mendS)" y1="54" y2="54" class="dead" />
      <line :x1="x(mendS)" :x2="x(mendS + back.worstS)" y1="54" y2="54" class="waits" />
      <line :x1="x(mendS + back.worstS)" :x2="wide - 8" y1="54" y2="54" class="carries" />
      <line :x1="LEFT" :x2="x(over.typicalS)" y1="84" y2="84" class="idle" />
      <line :x1="x(over.typicalS)" :x2="x(mendS + back.typicalS)" y1="84" y2="84" class="carries" />
      <line :x1="x(mendS + back.typicalS)" :x2="wide - 8" y1="84" y2="84" class="idle" />
      <line
        v-for="(p, i) in shown.filter((e) => e.what === 'miss' || e.what === 'good')"
        :key="i"
        :x1="x(p.atS)"
        :x2="x(p.atS)"
        y1="100"
        y2="108"
        :class="p.what"
      />
      <template v-if="at('carried') !== undefined">
        <line
          :x1="x(at('carried') ?? 0)"
          :x2="x(at('back') ?? Math.min(nowS ?? endS, endS))"
          y1="111"
          y2="111"
          class="thin"
        />
      </template>
      <line
        v-if="nowS !== null"
        :x1="x(Math.min(nowS, endS))"
        :x2="x(Math.min(nowS, endS))"
        y1="34"
        y2="120"
        class="now"
      />
      <line :x1="LEFT" :x2="wide - 8" y1="122" y2="122" class="axis" />
      <g v-for="t in ticks" :key="t">
        <line :x1="x(t)" :x2="x(t)" y1="119" y2="125" class="axis" />
        <text :x="x(t)" y="140" class="tick">{{ t >= 600 ? `${t / 60} min` : `${t} s` }}</text>
      </g>
    </svg>
    <figcaption class="small">{{ says }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 4px 0 0;
}
svg {
  display: block;
}
.out {
  fill: var(--trouble);
}
.other {
  fill: var(--shallow);
  opacity: 0.7;
}
.maybe {
  fill: none;
  stroke: var(--magenta);
  stroke-dasharray: 2 3;
}
.mark {
  stroke: var(--magenta);
  stroke-dasharray: 2 3;
}
.word {
  font-size: 12px;
  font-weight: 700;
  fill: var(--magenta);
}
.name {
  font-size: 13px;
  font-weight: 700;
  fill: var(--ink);
}
.soft,
.tick {
  font-size: 12px;
  fill: var(--soft);
}
.tick {
  text-anchor: middle;
  font-family: var(--mono);
}
.carries {
  stroke: var(--ink);
  stroke-width: 6;
}
.dead {
  stroke: var(--brick);
  stroke-width: 2;
  stroke-dasharray: 3 4;
}
.waits {
  stroke: var(--ink);
  stroke-width: 6;
  stroke-dasharray: 2 3;
}
.idle {
  stroke: var(--soft);
  stroke-width: 1.5;
  stroke-dasharray: 1 4;
}
.thin {
  stroke: var(--ink);
  stroke-width: 3;
}
.miss {
  stroke: var(--brick);
  stroke-width: 2;
}
.good {
  stroke: var(--kelp);
  stroke-width: 2;
}
.now {
  stroke: var(--deep);
  stroke-width: 2;
}
.axis {
  stroke: var(--ink);
}
figcaption {
  margin-top: 2px;
}
</style>
