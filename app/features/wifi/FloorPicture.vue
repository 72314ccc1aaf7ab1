<script setup lang="ts">
import type { Floor, LevelGrid } from '#core/wifi'
import type { Band, Device, WallKind } from '#core/schema'
import { beamPath, floorScale, levelLines, snapped } from './floor-picture'
import type { PlacementRow } from './placement-columns'
import { floorWords, pictureWords } from './words'
import { useElementSize } from '@vueuse/core'
import { followPointer } from '~/ui/follow-pointer'

/** A floor from above: its rooms, its access points, and lines of equal signal. What is drawn can be dragged. */
const props = defineProps<{
  floor: Floor
  building: string
  band: Band
  /** Null while it is computed. */
  grid: LevelGrid | null
  placements: readonly PlacementRow[]
  movable: boolean
}>()
/** From the top of a mark on. */
const GLYPHS: Readonly<Partial<Record<Device['kind'], string>>> = {
  'access-point': 'l7 12h-14Z',
  extender: 'm-6 1h12v12h-12Z',
}
const accessPoints = computed(
  () => props.placements.filter(({ device }) => device.kind === 'access-point').length,
)
const emit = defineEmits<{
  move: [what: 'room' | 'placement', id: string, xM: number, yM: number, session: string]
  moving: [isMoving: boolean]
}>()

// Letters keep their size on a phone: the drawing is as wide as its place.
const { width } = useElementSize(useTemplateRef<HTMLElement>('figure'))
const scale = computed(() =>
  floorScale(props.floor.widthM, props.floor.depthM, Math.min(960, Math.max(280, width.value || 960))),
)
/** A name stands left of its mark where it would run over the drawing's edge. */
const isAtRight = (xM: number) => scale.value.at(xM) > 0.8 * scale.value.width
/** So far under its mark a name that stands in the middle: clear of a beam, over the mark where that goes down. */
function underMark({ beam }: NonNullable<PlacementRow['placement']>): number {
  if (!beam) return 20
  return beam.azimuthDeg > 100 && beam.azimuthDeg < 260 ? -14 : 40
}
/** Beside its mark a name would run into the next room. */
const isNarrow = computed(() => scale.value.width < 500)
const lines = computed(() => (props.grid ? levelLines(props.grid, scale.value) : []))
const metres = (most: number) => Array.from({ length: Math.floor(most) + 1 }, (_, i) => i)
const squares = computed(() => ({ across: metres(props.floor.widthM), down: metres(props.floor.depthM) }))

const DASHES: Readonly<Record<number, string>> = { [-55]: '', [-65]: '7 4', [-75]: '2 4' }
const WALL_LOOKS: Readonly<Record<WallKind, readonly [width: number, dash: string]>> = {
  open: [0, ''],
  plasterboard: [1.5, ''],
  wood: [2, '8 2'],
  glass: [1.5, '2 2'],
  brick: [4, ''],
  concrete: [6, ''],
  metal: [4, '10 3'],
}
const wallsDrawn = computed(() =>
  props.floor.rooms.flatMap(({ id, outline: { xM, yM, widthM, depthM, walls } }) => {
    const [left, top, right, bottom] = [xM, yM, xM + widthM, yM + depthM].map(scale.value.at)
    const sides = {
      top: [left, top, right, top],
      right: [right, top, right, bottom],
      bottom: [left, bottom, right, bottom],
      left: [left, top, left, bottom],
    } as const
    return (['top', 'right', 'bottom', 'left'] as const).map((side) => ({
      key: `${id} ${side}`,
      ends: sides[side],
      look: WALL_LOOKS[walls[side]],
    }))
  }),
)

const rooms = useId()
let turn = 0
function grab(event: PointerEvent, what: 'room' | 'placement', id: string, xM: number, yM: number): void {
  if (!props.movable) return
  event.preventDefault()
  const picture = (event.currentTarget as SVGElement).ownerSVGElement
  const unit = ((picture?.clientWidth ?? 1) / scale.value.width) * scale.value.unit
  const session = `drag ${id} ${++turn}`
  emit('moving', true)
  followPointer(
    (now) =>
      emit(
        'move',
        what,
        id,
        snapped(xM + (now.clientX - event.clientX) / unit),
        snapped(yM + (now.clientY - event.clientY) / unit),
        session,
      ),
    () => emit('moving', false),
  )
}
const STEPS: Readonly<Record<string, readonly [x: number, y: number]>> = {
  ArrowLeft: [-0.5, 0],
  ArrowRight: [0.5, 0],
  ArrowUp: [0, -0.5],
  ArrowDown: [0, 0.5],
}
function nudge(event: KeyboardEvent, what: 'room' | 'placement', id: string, xM: number, yM: number): void {
  const step = STEPS[event.key]
  if (!step || !props.movable) return
  event.preventDefault()
  emit('move', what, id, snapped(xM + step[0]), snapped(yM + step[1]), `nudge ${id}`)
}
</script>

<template>
  <figure ref="figure">
    <svg
      :viewBox="`0 0 ${scale.width} ${scale.height}`"
      role="group"
      :aria-label="pictureWords(floorWords(building, floor.floor), band, floor.rooms.length, accessPoints)"
    >
      <g class="squares">
        <line
          v-for="x in squares.across"
          :key="`x${x}`"
          :x1="scale.at(x)"
          :x2="scale.at(x)"
          :y1="scale.at(0)"
          :y2="scale.at(floor.depthM)"
          :class="{ fifth: x % 5 === 0 }"
        />
        <line
          v-for="y in squares.down"
          :key="`y${y}`"
          :y1="scale.at(y)"
          :y2="scale.at(y)"
          :x1="scale.at(0)"
          :x2="scale.at(floor.widthM)"
          :class="{ fifth: y % 5 === 0 }"
        />
      </g>
      <clipPath :id="rooms">
        <rect
          v-for="{ id, outline } in floor.rooms"
          :key="id"
          :x="scale.at(outline.xM)"
          :y="scale.at(outline.yM)"
          :width="outline.widthM * scale.unit"
          :height="outline.depthM * scale.unit"
        />
      </clipPath>
      <g :clip-path="`url(#${rooms})`">
        <path
          v-for="{ dBm, path } in lines"
          :key="dBm"
          :d="path"
          class="level"
          :stroke-dasharray="DASHES[dBm]"
        />
      </g>
      <line
        v-for="{ key, ends, look } in wallsDrawn"
        :key="key"
        :x1="ends[0]"
        :y1="ends[1]"
        :x2="ends[2]"
        :y2="ends[3]"
        class="wall"
        :stroke-width="look[0]"
        :stroke-dasharray="look[1]"
      />
      <g
        v-for="{ id, name, outline } in floor.rooms"
        :key="id"
        class="room"
        :class="{ movable }"
        :tabindex="movable ? 0 : -1"
        role="img"
        :aria-label="`Room ${name}, ${outline.widthM} by ${outline.depthM} m`"
        @pointerdown="grab($event, 'room', id, outline.xM, outline.yM)"
        @keydown="nudge($event, 'room', id, outline.xM, outline.yM)"
      >
        <rect
          :x="scale.at(outline.xM)"
          :y="scale.at(outline.yM)"
          :width="outline.widthM * scale.unit"
          :height="outline.depthM * scale.unit"
        />
        <text :x="scale.at(outline.xM) + 8" :y="scale.at(outline.yM) + 18">{{ name }}</text>
      </g>
      <template v-for="{ id, device, placement } in placements" :key="id">
        <g
          v-if="placement"
          class="placement"
          :class="{ movable }"
          :tabindex="movable ? 0 : -1"
          role="img"
          :aria-label="`${device.name}, ${placement.xM} m from the left, ${placement.yM} m from the top`"
          @pointerdown="grab($event, 'placement', id, placement.xM, placement.yM)"
          @keydown="nudge($event, 'placement', id, placement.xM, placement.yM)"
        >
          <path v-if="placement.beam" class="beam" :d="beamPath(placement, placement.beam, scale)" />
          <path
            :d="`M${scale.at(placement.xM)} ${scale.at(placement.yM) - 7}${GLYPHS[device.kind] ?? ''}`"
            :class="{ assumed: placement.isAssumed }"
          />
          <text
            v-if="isNarrow || placement.beam"
            :x="scale.at(placement.xM)"
            :y="scale.at(placement.yM) + underMark(placement)"
            text-anchor="middle"
          >
            {{ device.name }}
          </text>
          <text
            v-else
            :x="scale.at(placement.xM) + (isAtRight(placement.xM) ? -10 : 10)"
            :y="scale.at(placement.yM) + 4"
            :text-anchor="isAtRight(placement.xM) ? 'end' : 'start'"
          >
            {{ device.name }}
          </text>
        </g>
      </template>
    </svg>
    <figcaption class="small soft">
      <span v-for="{ dBm } in lines" :key="dBm" class="key">
        <svg width="34" height="8" aria-hidden="true">
          <line x1="0" y1="4" x2="34" y2="4" class="level" :stroke-dasharray="DASHES[dBm]" />
        </svg>
        {{ String(dBm).replace('-', '−') }} dBm
      </span>
      <span>One square is 1 m.</span>
      <span v-if="placements.some(({ placement }) => placement?.isAssumed)"
        >An open mark: taken to hang in the middle of its room.</span
      >
      <span v-if="placements.some(({ placement }) => placement?.beam)"
        >Three rays: where an antenna sends.</span
      >
      <span v-if="placements.some(({ device }) => device.kind === 'extender')">A square is an extender.</span>
      <span v-if="movable">Drag rooms and access points, or use the arrow keys.</span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 8px 0;
}
svg {
  display: block;
  max-width: 100%;
}
figure > svg {
  width: 100%;
  background: var(--panel);
  border: 1px solid var(--line);
}
.squares line {
  stroke: var(--hair);
  stroke-width: 0.5;
}
.squares .fifth {
  stroke: var(--line);
}
.level {
  fill: none;
  stroke: var(--magenta);
  stroke-width: 1.6;
}
.wall {
  stroke: var(--ink);
}
.room rect {
  fill: transparent;
}
text {
  font-size: 14px;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--panel);
  stroke-width: 3px;
}
.placement path {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.placement .assumed {
  fill: var(--panel);
}
.placement .beam {
  fill: none;
}
.movable {
  cursor: move;
  touch-action: none;
}
.room:focus-visible rect,
.placement:focus-visible path {
  outline: 2px solid var(--magenta);
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  padding-top: 4px;
}
.key {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
</style>
