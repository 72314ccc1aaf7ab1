<script setup lang="ts">
import type { Plan, NetworkId } from '#core/schema'
import { crowdedPoints, drawnBundles, gapsOf, LABEL, labelAt, stopPoint } from './drawing'
import {
  BAR_WIDTH,
  curve,
  useLayoutWorker,
  THREAD_GAP,
  type TopologyLayout,
  type Point,
} from './topology-layout'
import { bundleWords, gapWords } from './words'
import type { TopologyGraph, LinkBundle, WalkPath, VlanThread } from './topology-graph'
import { FARTHEST, usePictureZoom } from './picture-zoom'
import { threadOf } from '~/theme/threads'
import { namesIn } from '~/wording/names'

/**
 * Devices from the internet's side to the edge, VLANs as threads through the cables, knots where one stops
 * short.
 */
const props = defineProps<{
  plan: Plan
  graph: TopologyGraph
  device: string
  bundle: string
  vlan: number
  path: WalkPath | null
}>()
const emit = defineEmits<{ device: [id: string]; bundle: [bundle: LinkBundle] }>()
const layout = shallowRef<TopologyLayout | null>(null)
const failed = ref('')
// Only what changes places asks for a new layout: names, parts and how many threads each bundle has.
const shape = computed(() =>
  JSON.stringify([
    props.graph.nodes.map((n) => [n.id, n.name, n.detail]),
    props.graph.bundles.map((b) => [b.id, b.threads.length]),
  ]),
)
const layOut = useLayoutWorker((answer) => {
  if (answer.layout) layout.value = answer.layout
  failed.value = answer.reason
})
watch(shape, () => layOut(props.graph), { immediate: true })

const box = useTemplateRef<HTMLElement>('box')
const { byHand, fitting, scale, zoom, wheel, pull } = usePictureZoom(box, layout, () => props.plan.site.name)
const names = computed(() => namesIn(props.plan))
const style = (networkId: NetworkId) => threadOf(props.plan.networks, networkId)
const drawn = computed(() => drawnBundles(props.graph, layout.value))
const isDim = (thread: VlanThread) => props.vlan !== 0 && props.vlan !== thread.vlan
const gaps = computed(() => gapsOf(drawn.value))
const place = (id: string) => layout.value?.nodes.get(id)
const nodes = computed(() =>
  props.graph.nodes.flatMap((node) => {
    const at = place(node.id)
    return at ? [{ node, at }] : []
  }),
)
const crowded = computed(() => crowdedPoints(drawn.value))
const labelOf = (gap: Point) =>
  labelAt(gap, nodes.value, crowded.value, layout.value ?? { width: 0, height: 0 })
// A walk on the picture: a broad band along its way, its steps by number, a cross where it ends.
const pathOf = (bundleId: string) => props.path?.steps.get(bundleId) ?? []
const stopAt = computed(() => stopPoint(props.path?.stop, drawn.value, place))
const stepsText = (bundleId: string) =>
  pathOf(bundleId)
    .map((s) => `${s.n}${s.outward ? '→' : '←'}`)
    .join(' ')
</script>

<template>
  <p v-if="failed" class="wrong-words">
    The picture cannot be laid out: {{ failed }}. The table below holds the same.
  </p>
  <p v-else-if="!layout" class="soft">Laying out</p>
  <div v-else class="picture">
    <div class="zoom">
      <VBtn v-if="byHand !== null" variant="text" @click="byHand = null"> As it was </VBtn>
      <VBtn v-if="fitting < scale - 0.01" variant="text" @click="byHand = Math.max(FARTHEST, fitting)">
        Whole width
      </VBtn>
      <VBtn aria-label="Nearer" @click="zoom(1.25)">+</VBtn>
      <VBtn aria-label="Farther" @click="zoom(0.8)">−</VBtn>
    </div>
    <div
      ref="box"
      class="scroll"
      tabindex="0"
      role="region"
      aria-label="Loom picture"
      @wheel="wheel"
      @pointerdown="pull"
      @keydown.+="zoom(1.25)"
      @keydown.-="zoom(0.8)"
    >
      <div :style="{ width: `${layout.width * scale}px`, height: `${(layout.height + 4) * scale}px` }">
        <svg
          :width="layout.width"
          :height="layout.height + 4"
          :style="{ transform: `scale(${scale})` }"
          role="group"
          aria-label="Loom"
        >
          <g
            v-for="item in drawn"
            :key="item.bundle.id"
            class="bundle"
            :class="{ chosen: item.bundle.id === bundle, down: item.bundle.failed }"
            role="button"
            tabindex="0"
            :aria-label="bundleWords(names, item.bundle)"
            @click="emit('bundle', item.bundle)"
            @keydown.enter="emit('bundle', item.bundle)"
          >
            <path
              v-if="path?.steps.has(item.bundle.id)"
              class="way"
              :d="curve(item.line, 0)"
              :stroke-width="item.bundle.threads.length * THREAD_GAP + 9"
            />
            <path
              class="hit"
              :d="curve(item.line, 0)"
              :stroke-width="item.bundle.threads.length * THREAD_GAP + 6"
            />
            <path
              v-if="item.bundle.threads.length === 0"
              :d="curve(item.line, 0)"
              fill="none"
              stroke="var(--ink)"
              :stroke-width="1.5"
            />
            <template v-for="t in item.threads" :key="t.thread.vlan">
              <path
                :d="t.d"
                fill="none"
                :stroke="style(t.thread.networkId).colour"
                stroke-width="3.5"
                :stroke-dasharray="style(t.thread.networkId).dash"
                :opacity="isDim(t.thread) ? 0.18 : 1"
              />
              <text
                v-if="t.thread.oneWay && !isDim(t.thread)"
                class="one"
                :x="item.start.x + 34"
                :y="item.start.y - 6"
              >
                {{ t.thread.vlan }} one way
              </text>
            </template>
            <text
              v-if="item.bundle.fromPorts || item.bundle.label"
              class="port"
              :x="item.start.x + 4"
              :y="item.start.y - (item.bundle.threads.length * THREAD_GAP) / 2 - 2"
            >
              {{ item.bundle.label || item.bundle.fromPorts }}
            </text>
            <g v-if="item.bundle.failed" class="cut">
              <path :d="`M${item.middle.x - 7} ${item.middle.y - 7} l14 14 m0 -14 l-14 14`" />
              <text :x="item.middle.x + 11" :y="item.middle.y + 4">down</text>
            </g>
          </g>
          <g
            v-for="{ node, at } in nodes"
            :key="node.id"
            class="node"
            :class="{ chosen: node.id === device, down: node.failed, onway: path?.devices.has(node.id) }"
            role="button"
            tabindex="0"
            :aria-label="`${node.name} ${node.detail}`"
            @click="emit('device', node.id)"
            @keydown.enter="emit('device', node.id)"
          >
            <rect
              class="grip"
              :x="at.x"
              :y="node.kind === 'bar' ? at.y - (node.detail ? 31 : 18) : at.y"
              :width="Math.max(BAR_WIDTH, node.name.length * 6.4)"
              :height="node.kind === 'bar' ? at.height + (node.detail ? 31 : 18) : 18"
            />
            <template v-if="node.kind === 'bar'">
              <rect :x="at.x" :y="at.y" :width="BAR_WIDTH" :height="at.height" />
              <text :x="at.x" :y="at.y - (node.detail ? 19 : 6)" class="name">
                {{ node.name }}{{ node.failed ? ' (down)' : '' }}
              </text>
              <text v-if="node.detail" :x="at.x" :y="at.y - 6" class="detail">{{ node.detail }}</text>
            </template>
            <text v-else :x="at.x + 6" :y="at.y + 13" class="hosts">{{ node.name }}</text>
          </g>
          <g
            v-for="k in gaps"
            :key="`${k.at.x} ${k.at.y}`"
            class="knot"
            role="img"
            :aria-label="`${gapWords(names, k).title}: ${gapWords(names, k).why}`"
          >
            <circle :cx="k.at.x" :cy="k.at.y" r="8" />
            <path :d="`M${k.at.x - 4} ${k.at.y - 4} l8 8 m0 -8 l-8 8`" />
            <g :transform="`translate(${labelOf(k.at).x} ${labelOf(k.at).y})`">
              <rect :width="LABEL.width" :height="LABEL.height" />
              <text x="7" y="15" class="strong">{{ gapWords(names, k).title }}</text>
              <text x="7" y="31">{{ gapWords(names, k).why }}</text>
            </g>
          </g>
          <template v-if="path">
            <template v-for="item in drawn" :key="`steps ${item.bundle.id}`">
              <g
                v-if="pathOf(item.bundle.id).length > 0"
                class="step"
                :transform="`translate(${item.middle.x} ${item.middle.y})`"
              >
                <rect
                  :x="-stepsText(item.bundle.id).length * 3.8 - 5"
                  y="-9"
                  :width="stepsText(item.bundle.id).length * 7.6 + 10"
                  height="18"
                  rx="9"
                />
                <text y="4" text-anchor="middle">{{ stepsText(item.bundle.id) }}</text>
              </g>
            </template>
            <g v-if="stopAt" class="ends" role="img" aria-label="The walk ends here">
              <circle :cx="stopAt.x" :cy="stopAt.y" r="11" />
              <path :d="`M${stopAt.x - 5} ${stopAt.y - 5} l10 10 m0 -10 l-10 10`" />
            </g>
          </template>
        </svg>
      </div>
    </div>
  </div>
</template>

<style scoped>
.picture {
  position: relative;
}
.zoom {
  position: absolute;
  right: 0;
  top: -30px;
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 13px;
  z-index: 2;
}
.zoom .v-btn {
  flex: none;
}
.scroll {
  overflow: auto;
  max-height: 78vh;
}
svg {
  display: block;
  transform-origin: 0 0;
  will-change: transform;
}
text {
  font-size: 12px;
  fill: var(--ink);
}
.hit {
  fill: none;
  stroke: transparent;
  pointer-events: stroke;
}
.bundle,
.node {
  cursor: pointer;
}
.bundle:hover .hit,
.bundle.chosen .hit {
  stroke: var(--shallow);
}
.way {
  fill: none;
  stroke: var(--deep);
  opacity: 0.28;
}
.bundle.down > path:not(.hit) {
  opacity: 0.25;
}
.bundle:focus-visible,
.node:focus-visible {
  outline: 2px solid var(--deep);
}
.port {
  font-family: var(--mono);
  font-size: 11px;
  fill: var(--soft);
}
.detail {
  fill: var(--soft);
}
.cut path {
  stroke: var(--brick);
  stroke-width: 2.5;
}
.cut text,
.one {
  fill: var(--brick);
  font-weight: 700;
}
.node rect {
  fill: var(--ink);
}
.node.chosen rect {
  fill: var(--deep);
}
.node.down rect {
  fill: none;
  stroke: var(--brick);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
.node rect.grip,
.node.chosen rect.grip,
.node.down rect.grip {
  fill: transparent;
  stroke: none;
}
.node.onway rect:not(.grip) {
  fill: var(--deep);
}
.node.onway text {
  fill: var(--deep);
  font-weight: 700;
}
.step rect {
  fill: var(--deep);
}
.step text {
  fill: var(--on-deep);
  font-family: var(--mono);
  font-size: 11px;
  font-weight: 700;
}
.ends circle {
  fill: var(--panel);
  stroke: var(--brick);
  stroke-width: 3;
}
.ends path {
  stroke: var(--brick);
  stroke-width: 3;
}
.step,
.ends {
  pointer-events: none;
}
.node.chosen text {
  fill: var(--deep);
  font-weight: 700;
}
.name,
.strong {
  font-weight: 700;
}
.knot circle {
  fill: var(--panel);
  stroke: var(--magenta);
  stroke-width: 3;
}
.knot path {
  stroke: var(--magenta);
  stroke-width: 2.5;
}
.knot rect {
  fill: var(--panel);
  stroke: var(--magenta);
  stroke-width: 1.5;
}
.knot text {
  fill: var(--ink);
}
.knot .strong {
  fill: var(--magenta);
}
</style>
