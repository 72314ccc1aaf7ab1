<script setup lang="ts">
import { formatPrefix4, largestIn, sizeOf } from '#core/address'
import type { Finding } from '#core/findings'
import type { Network, Plan } from '#core/schema'
import { around, endOf, isWhole, panned } from './ruler-view'
import { EDGE, useRulerDrag } from './ruler-drag'
import { readPrefix, useRulerPicture } from './ruler-picture'
import { useRulerZoom } from './ruler-zoom'
import { useElementSize } from '@vueuse/core'
import { threadOf } from '~/theme/threads'
import { reasonOf } from '~/wording/problems'

/**
 * The site's block as a ruler: networks as lengths on it, gaps with what would fit, mistyped gateways pointed
 * out.
 * A length is dragged, or moved by arrow keys, from one legal place to another; its right edge, or Shift and
 * an arrow, resizes it.
 */
const props = defineProps<{ plan: Plan; chosen: string; findings: readonly Finding[]; readonly: boolean }>()
const emit = defineEmits<{ choose: [id: string]; lay: [plan: Plan, words: string] }>()
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box, { width: 736, height: 0 })

const TOP = 40
const HEIGHT = 42
const block = computed(() => readPrefix(props.plan.site.supernet))
const { wanted, view, addressAt, zoom, wheel } = useRulerZoom(block, width)
const x = (address: number): number => ((address - view.value.from) / view.value.size) * width.value
const { all, outside, ticks, lengths, free, gaps, strays } = useRulerPicture(props, { block, view, width })
const taken = computed(() => all.value.reduce((sum, l) => sum + sizeOf(l.prefix.length), 0))
const largest = computed(() => {
  const [best] = free.value.map(largestIn).sort((p, q) => p.length - q.length)
  return best ? `largest aligned gap /${best.length}` : 'no gap left'
})
const height = computed(() => TOP + HEIGHT + 4 + strays.value.length * 18)

const { ghost, says, refusedWords, grab, key } = useRulerDrag(props, {
  block,
  all,
  addressAt,
  choose: (id) => emit('choose', id),
  lay: (plan, words) => emit('lay', plan, words),
})
const labelOf = ({ name, vlan, subnet, pinned }: Network): string =>
  `${name}, VLAN ${vlan}, ${subnet}${pinned ? ', chosen by hand' : ''}`
const near = computed(() => all.value.find((l) => l.network.id === props.chosen))
</script>

<template>
  <div ref="box" class="ruler">
    <p v-if="!block" class="wrong-words">The site's block, {{ plan.site.supernet }}, cannot be read.</p>
    <template v-else>
      <div class="facts">
        <b class="mono">{{ plan.site.supernet }}</b>
        <span class="soft small"
          >{{ sizeOf(block.length).toLocaleString('en') }} addresses · {{ taken.toLocaleString('en') }} given
          · {{ largest }}</span
        >
        <span class="zoom">
          <VBtn
            v-if="near && sizeOf(near.prefix.length) * 3 < view.size"
            variant="text"
            @click="wanted = around(block, near.prefix)"
          >
            Near {{ near.network.name }}
          </VBtn>
          <template v-if="!isWhole(block, view)">
            <VBtn variant="text" @click="wanted = panned(block, view, -view.size / 2)"> Down </VBtn>
            <VBtn variant="text" @click="wanted = panned(block, view, view.size / 2)"> Up </VBtn>
            <VBtn variant="text" @click="wanted = null">Whole block</VBtn>
          </template>
          <VBtn aria-label="Nearer" @click="zoom(0.5)">+</VBtn>
          <VBtn aria-label="Farther" :disabled="isWhole(block, view)" @click="zoom(2)"> − </VBtn>
        </span>
      </div>
      <svg :width="width" :height="height" role="group" aria-label="Address ruler" @wheel="wheel">
        <g class="ticks">
          <template v-for="tick in ticks" :key="tick.x">
            <line
              :x1="tick.x + 0.5"
              :x2="tick.x + 0.5"
              :y1="tick.tall ? TOP - 20 : TOP - 10"
              :y2="TOP"
              stroke="var(--ink)"
            />
            <text v-if="tick.label && tick.x < width - 30" :x="tick.x + 4" :y="TOP - 22">
              {{ tick.label }}
            </text>
          </template>
          <line x1="0" :x2="width" :y1="TOP" :y2="TOP" stroke="var(--ink)" stroke-width="2" />
        </g>
        <g v-for="gap in gaps" :key="gap.x" class="gap">
          <title>{{ gap.title }}</title>
          <rect :x="gap.x + 0.5" :y="TOP + 1" :width="Math.max(0, gap.w - 1)" :height="HEIGHT - 1" />
          <text
            :x="gap.x + (gap.w > 300 ? 10 : gap.w / 2)"
            :y="TOP + 25"
            :text-anchor="gap.w > 300 ? 'start' : 'middle'"
          >
            {{ gap.text }}
          </text>
        </g>
        <g
          v-for="item in lengths"
          :key="item.network.id"
          class="length"
          :class="{ chosen: item.network.id === chosen, moves: !readonly }"
          role="button"
          tabindex="0"
          :aria-label="labelOf(item.network)"
          :aria-pressed="item.network.id === chosen"
          @pointerdown="grab($event, item)"
          @keydown.enter="emit('choose', item.network.id)"
          @keydown.space.prevent="emit('choose', item.network.id)"
          @keydown="key($event, item)"
        >
          <title>{{ item.network.name }} {{ item.network.subnet }}</title>
          <rect
            :x="item.x + 1"
            :y="TOP + 1"
            :width="Math.max(1, item.w - 2)"
            :height="HEIGHT - 2"
            :stroke="item.wrong ? 'var(--brick)' : threadOf(plan.networks, item.network.id).colour"
            :fill="item.network.id === chosen ? 'var(--shallow)' : 'var(--panel)'"
          />
          <line
            :x1="item.x + 2"
            :x2="item.x + item.w - 2"
            :y1="TOP + HEIGHT - 7"
            :y2="TOP + HEIGHT - 7"
            :stroke="threadOf(plan.networks, item.network.id).colour"
            stroke-width="4"
            :stroke-dasharray="threadOf(plan.networks, item.network.id).dash"
          />
          <text v-if="item.w > item.network.name.length * 7 + 12" :x="item.x + 6" :y="TOP + 15" class="name">
            {{ item.network.name }}
          </text>
          <text v-if="item.w > item.network.name.length * 7 + 12" :x="item.x + 6" :y="TOP + 29" class="vlan">
            {{ item.network.vlan }}{{ item.network.pinned ? ' · by hand' : '' }}
          </text>
          <text
            v-else-if="item.w >= 22"
            :x="item.x + item.w / 2"
            :y="TOP + 24"
            text-anchor="middle"
            class="name"
          >
            {{ item.network.vlan }}
          </text>
          <text
            v-else
            :x="item.x + item.w / 2"
            :y="TOP + 24"
            text-anchor="middle"
            class="tiny"
            :transform="`rotate(-90 ${item.x + item.w / 2} ${TOP + 18})`"
          >
            {{ item.network.vlan }}
          </text>
          <rect
            v-if="!readonly && item.w > 2 * EDGE"
            class="edge"
            :x="item.x + item.w - EDGE"
            :y="TOP + 1"
            :width="EDGE"
            :height="HEIGHT - 2"
          />
        </g>
        <g v-for="(stray, i) in strays" :key="stray.text" class="stray">
          <path :d="`M${stray.x} ${TOP - 4} V${TOP + HEIGHT + 12 + i * 18} h14`" />
          <text
            :x="stray.x > width - 260 ? stray.x - 6 : stray.x + 18"
            :y="TOP + HEIGHT + 16 + i * 18"
            :text-anchor="stray.x > width - 260 ? 'end' : 'start'"
          >
            {{ stray.text }}
          </text>
        </g>
        <g v-if="ghost" class="ghost" :class="{ bad: !ghost.result.ok }">
          <rect
            :x="x(ghost.prefix.base) + 1"
            :y="TOP - 3"
            :width="Math.max(3, x(endOf(ghost.prefix)) - x(ghost.prefix.base) - 2)"
            :height="HEIGHT + 5"
          />
          <text
            :x="Math.min(width - 8, Math.max(4, x(ghost.prefix.base)))"
            :y="TOP - 8"
            :text-anchor="x(ghost.prefix.base) > width - 220 ? 'end' : 'start'"
          >
            {{ formatPrefix4(ghost.prefix)
            }}{{ ghost.result.ok ? '' : `: ${ghost.result.problems.map(reasonOf).join('; ')}` }}
          </text>
        </g>
      </svg>
      <p class="sr" aria-live="polite">{{ says }}</p>
      <p v-if="refusedWords" class="wrong-words" role="alert">{{ refusedWords }}</p>
      <p v-if="outside.length > 0" class="small soft">
        Outside the block: {{ outside.map((n) => `${n.name} ${n.subnet}`).join(', ') }}
      </p>
    </template>
  </div>
</template>

<style scoped>
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: baseline;
  margin-bottom: 6px;
  min-height: 26px;
}
.zoom {
  margin-left: auto;
  display: flex;
  gap: 10px;
  align-items: baseline;
  font-size: 13px;
}
.zoom .v-btn {
  flex: none;
}
svg {
  display: block;
  overflow: hidden;
  touch-action: pan-y;
}
text {
  font-size: 12px;
  fill: var(--ink);
  pointer-events: none;
  user-select: none;
}
.ticks text {
  font-family: var(--mono);
  font-size: 12px;
}
.gap rect {
  fill: none;
  stroke: var(--line);
  stroke-dasharray: 4 3;
}
.gap text {
  fill: var(--soft);
}
.length {
  cursor: pointer;
}
.length.moves {
  cursor: grab;
}
.length rect {
  stroke-width: 2;
}
.length.chosen rect {
  stroke-width: 3;
}
.length .edge,
.length.chosen .edge {
  fill: transparent;
  stroke: none;
  cursor: ew-resize;
}
.length:focus-visible {
  outline: none;
}
.length:focus-visible rect:not(.edge) {
  stroke-width: 4;
}
.name {
  font-weight: 700;
}
.tiny {
  font-size: 11px;
  font-weight: 700;
}
.stray path {
  fill: none;
  stroke: var(--magenta);
  stroke-width: 2;
}
.stray text {
  fill: var(--magenta);
  font-weight: 700;
}
.ghost rect {
  fill: none;
  stroke: var(--deep);
  stroke-width: 2.5;
  stroke-dasharray: 5 3;
  pointer-events: none;
}
.ghost text {
  fill: var(--deep);
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 5px;
}
.ghost.bad rect {
  stroke: var(--brick);
}
.ghost.bad text {
  fill: var(--brick);
}
</style>
