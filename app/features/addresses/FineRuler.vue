<script setup lang="ts">
import {
  formatIpv4,
  ipv4,
  lastOf,
  parseIpv4,
  parsePrefix4,
  parseRange4,
  segmentsOf,
  sizeOf,
  type SegmentKind,
} from '#core/address'
import { orNull } from '#core/util'
import type { Network } from '#core/schema'
import { shortAddress } from './columns'
import { useElementSize } from '@vueuse/core'

/** One network from its first address to its last: what each is for. */
const props = defineProps<{ network: Network; colour: string }>()
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box, { width: 736, height: 0 })
/** Room for the words at both ends beside the tally between them. */
const isWide = computed(() => width.value > 560)
const HEIGHT = 34

const subnet = computed(() => orNull(parsePrefix4(props.network.subnet)))
const address = (text: string) => orNull(parseIpv4(text))
const segments = computed(() => {
  const home = subnet.value
  const { network } = props
  if (!home) return []
  const pool =
    network.pool && network.dhcp === 'serve'
      ? orNull(parseRange4(`${network.pool.from}-${network.pool.to}`))
      : null
  const fixed = network.fixed.flatMap(({ ip, how }) => {
    const value = address(ip)
    return value === null ? [] : [{ ip: value, how }]
  })
  const scale = width.value / sizeOf(home.length)
  return segmentsOf(home, { gateway: address(network.gateway), pool, fixed }).map((segment) => {
    const size = segment.to - segment.from + 1
    const pixels = Math.max(2, size * scale)
    return {
      ...segment,
      size,
      x: (segment.from - home.base) * scale,
      w: pixels,
      text: label(segment.kind, size, pixels),
    }
  })
})

function label(kind: SegmentKind, size: number, pixels: number): string {
  if (kind === 'pool') {
    if (pixels > 130) return `pool, ${size} addresses`
    if (pixels > 50) return `pool ${size}`
    return ''
  }
  if (kind === 'free') return pixels > 70 ? `free ${size}` : ''
  return ''
}
const short = (ip: number) => shortAddress(formatIpv4(ipv4(ip)), props.network)
const counts = computed(() => {
  const of = (kind: SegmentKind) =>
    segments.value.filter((s) => s.kind === kind).reduce((sum, s) => sum + s.size, 0)
  return [
    ['static', of('static')],
    ['reserved', of('reserved')],
    ['pool', of('pool')],
    ['free', of('free')],
  ] as const
})
</script>

<template>
  <div ref="box">
    <svg
      v-if="subnet"
      :width="width"
      :height="HEIGHT + 20"
      role="img"
      :aria-label="`${network.name} ${network.subnet}: ${counts.map(([kind, n]) => `${n} ${kind}`).join(', ')}`"
    >
      <defs>
        <pattern id="held" width="5" height="5" patternUnits="userSpaceOnUse">
          <path d="M0 5 L5 0" stroke="var(--ink)" stroke-width="1" />
        </pattern>
      </defs>
      <g v-for="s in segments" :key="s.from">
        <title>{{ s.kind }} {{ short(s.from) }}{{ s.size > 1 ? ` to ${short(s.to)}, ${s.size}` : '' }}</title>
        <rect :class="s.kind" :x="s.x" y="1" :width="s.w" :height="HEIGHT - 2" />
        <text v-if="s.text" :x="s.x + 8" :y="HEIGHT / 2 + 4" :class="{ strong: s.kind === 'pool' }">
          {{ s.text }}
        </text>
      </g>
      <rect
        x="1"
        y="1"
        :width="width - 2"
        :height="HEIGHT - 2"
        fill="none"
        :stroke="colour"
        stroke-width="2"
      />
      <text x="0" :y="HEIGHT + 15" class="mono">{{ isWide ? 'network ' : '' }}{{ short(subnet.base) }}</text>
      <text :x="width / 2" :y="HEIGHT + 15" text-anchor="middle" class="legend">
        {{
          counts
            .filter(([, n]) => n > 0)
            .map(([kind, n]) => `${n} ${kind}`)
            .join(' · ')
        }}
      </text>
      <text :x="width" :y="HEIGHT + 15" text-anchor="end" class="mono">
        {{ isWide ? 'broadcast ' : '' }}{{ short(lastOf(subnet)) }}
      </text>
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
text {
  font-size: 12px;
  fill: var(--ink);
}
.legend {
  fill: var(--soft);
}
.strong {
  font-weight: 700;
}
.free {
  fill: var(--panel);
}
.pool {
  fill: var(--shallow);
}
.gateway,
.network,
.broadcast {
  fill: var(--ink);
}
.static {
  fill: var(--deep);
}
.reserved {
  fill: url('#held');
}
</style>
