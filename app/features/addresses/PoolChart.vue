<script setup lang="ts">
import type { Chart as ChartType } from 'chart.js'
import { erlangB, LEASES_S, offeredLoad } from '#core/dhcp'
import { MOST_BLOCKED } from '#core/findings'
import { leaseText } from '~/wording/lease'

/**
 * How often a client finds the pool empty, by pool size, for the usual leases; the pool as it is stands as a
 * line.
 */
const props = defineProps<{ arrivalsPerH: number; stayH: number; leaseS: number; size: number }>()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
let chart: ChartType | undefined

const leases = computed(() =>
  [...new Set([props.leaseS, ...LEASES_S.filter((l) => l <= 86_400 && l >= 3600)])]
    .sort((a, b) => b - a)
    .slice(0, 6),
)
const most = computed(() =>
  Math.max(
    props.size * 1.6,
    20,
    ...leases.value
      .filter((l) => l <= props.leaseS)
      .map((l) => offeredLoad(props.arrivalsPerH, props.stayH, l / 3600) * 1.15),
  ),
)
const sizes = computed(() => Array.from({ length: 61 }, (_, i) => Math.round((most.value * i) / 60)))
const says = computed(
  () =>
    `With ${props.size} addresses and a lease of ${leaseText(props.leaseS)}, ` +
    `${(100 * erlangB(offeredLoad(props.arrivalsPerH, props.stayH, props.leaseS / 3600), props.size)).toFixed(2)} % ` +
    `of clients find the pool empty; at most ${100 * MOST_BLOCKED} % is the aim.`,
)

const DASHES: readonly (readonly number[])[] = [[], [8, 3], [3, 3], [10, 3, 2, 3], [6, 2], [1, 3]]
const ink = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

const COLOURS = ['--deep', '--plum', '--ochre', '--brick', '--kelp', '--blue']
const shareEmpty = (leaseS: number, size: number) =>
  100 * erlangB(offeredLoad(props.arrivalsPerH, props.stayH, leaseS / 3600), size)

/** How often the pool is empty with one lease, by its size. */
const leaseLine = (leaseS: number, i: number) => ({
  label: `lease ${leaseText(leaseS)}${leaseS === props.leaseS ? ', planned' : ''}`,
  borderColor: ink(COLOURS[i % COLOURS.length] ?? ''),
  borderDash: [...(DASHES[i % DASHES.length] ?? [])],
  borderWidth: leaseS === props.leaseS ? 3 : 1.5,
  pointRadius: 0,
  data: sizes.value.map((x) => ({ x, y: shareEmpty(leaseS, x) })),
})
/** A straight line that marks a figure. */
const markLine = (label: string, data: { x: number; y: number }[], colour: string) => ({
  label,
  data,
  borderColor: ink(colour),
  borderDash: [2, 2],
  borderWidth: 1.5,
  pointRadius: 0,
})
const axis = (text: string, max: number) => ({
  type: 'linear' as const,
  title: { display: true, text },
  grid: { color: ink('--hair') },
  min: 0,
  max,
})

async function draw(): Promise<void> {
  const { Chart, LineController, LineElement, PointElement, LinearScale, Legend, Tooltip } =
    await import('chart.js')
  Chart.register(LineController, LineElement, PointElement, LinearScale, Legend, Tooltip)
  if (!canvas.value) return
  Chart.defaults.font.family = "'Atkinson Hyperlegible Next', sans-serif"
  Chart.defaults.color = ink('--ink')
  const { size } = props
  const pool = [
    { x: size, y: 0 },
    { x: size, y: 100 },
  ]
  const aim = [
    { x: 0, y: 1 },
    { x: most.value, y: 1 },
  ]
  chart?.destroy()
  chart = new Chart(canvas.value, {
    type: 'line',
    data: {
      datasets: [
        ...leases.value.map(leaseLine),
        markLine(`pool of ${size}`, pool, '--magenta'),
        markLine('1 in 100', aim, '--soft'),
      ],
    },
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      parsing: false,
      scales: {
        x: axis('addresses in the pool', Math.round(most.value)),
        y: axis('% that find it empty', 100),
      },
      plugins: { legend: { position: 'right', labels: { boxWidth: 26, boxHeight: 1 } } },
    },
  })
}
watch(
  [() => props.arrivalsPerH, () => props.stayH, () => props.leaseS, () => props.size, canvas],
  () => void draw(),
  { flush: 'post' },
)
onMounted(() => void draw())
onBeforeUnmount(() => chart?.destroy())
</script>

<template>
  <figure>
    <div class="frame"><canvas ref="canvas" role="img" :aria-label="says" /></div>
    <figcaption class="small">{{ says }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 8px 0 0;
}
.frame {
  height: 210px;
  position: relative;
}
</style>
