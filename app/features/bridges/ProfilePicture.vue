<script setup lang="ts">
import type { RadioLink } from '#core/radio'
import { profileShape, VIEW } from './profile-shape'
import { pictureWords } from './words'

/** The path of a radio link from the side: heights are drawn larger than distances. */
const { path, names } = defineProps<{
  path: NonNullable<RadioLink['path']>
  names: readonly [string, string]
}>()
const shape = computed(() => profileShape(path))
const heights = computed(() => {
  const { lowM, highM } = shape.value
  return [Math.ceil(lowM), Math.round((lowM + highM) / 2), Math.floor(highM)]
})
const distances = computed(() => [0.25, 0.5, 0.75].map((part) => Math.round(path.lengthM * part)))
const clip = useId()
</script>

<template>
  <svg
    :viewBox="`0 0 ${VIEW.width} ${VIEW.height}`"
    role="img"
    :aria-label="pictureWords(names, path.lengthM)"
  >
    <defs>
      <pattern :id="clip" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M0 6 L6 0" class="hatch" />
      </pattern>
    </defs>
    <g class="axis">
      <template v-for="heightM in heights" :key="heightM">
        <line :x1="VIEW.left" :x2="VIEW.width - VIEW.right" :y1="shape.up(heightM)" :y2="shape.up(heightM)" />
        <text :x="VIEW.left - 6" :y="shape.up(heightM) + 4" text-anchor="end">{{ heightM }} m</text>
      </template>
      <text
        v-for="distanceM in distances"
        :key="distanceM"
        :x="shape.across(distanceM)"
        :y="VIEW.height - 8"
        text-anchor="middle"
      >
        {{ distanceM.toLocaleString('en') }} m
      </text>
    </g>
    <polygon :points="shape.zone" class="zone" />
    <polygon :points="shape.ground" class="ground" :fill="`url(#${clip})`" />
    <rect
      v-for="(one, i) in shape.obstacles"
      :key="i"
      :x="one.x - 3"
      :y="one.y"
      width="6"
      :height="one.height"
      class="obstacle"
    />
    <polyline :points="shape.line" class="sight" />
    <line
      v-for="end in shape.ends"
      :key="end.x"
      :x1="end.x"
      :x2="end.x"
      :y1="end.footY"
      :y2="end.topY"
      class="mast"
    />
    <text :x="VIEW.left" :y="VIEW.height - 8">{{ names[0] }}</text>
    <text :x="VIEW.width - VIEW.right" :y="VIEW.height - 8" text-anchor="end">{{ names[1] }}</text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 900px;
  background: var(--panel);
  border: 1px solid var(--line);
}
text {
  font-size: 11px;
  fill: var(--ink);
}
.axis line {
  stroke: var(--hair);
}
.axis text {
  fill: var(--soft);
}
.zone {
  fill: var(--shallow);
  fill-opacity: 0.6;
  stroke: var(--deep);
  stroke-dasharray: 4 3;
}
.ground {
  stroke: var(--ink);
}
.hatch {
  stroke: var(--soft);
}
.obstacle {
  fill: var(--umber);
}
.sight {
  fill: none;
  stroke: var(--deep);
  stroke-width: 1.5;
}
.mast {
  stroke: var(--ink);
  stroke-width: 4;
}
</style>
