<script setup lang="ts">
import { useTheme } from 'vuetify'
import { erlangB, LEASES_S, offeredLoad } from '#core/dhcp'
import { MOST_BLOCKED } from '#core/findings'
import { CHART, chartAxis, chartMark, ink, LineChart } from '~/ui/line-chart'
import { leaseText } from '~/wording/lease'

/**
 * How often a client finds the pool empty, by pool size, for the usual leases; the pool as it is stands as a
 * line.
 */
const props = defineProps<{ arrivalsPerH: number; stayH: number; leaseS: number; size: number }>()

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
const theme = useTheme()
const picture = computed(() => {
  // Drawn anew when the paper is another.
  void theme.name.value
  const { size } = props
  const pool = [
    { x: size, y: 0 },
    { x: size, y: 100 },
  ]
  const aim = [
    { x: 0, y: 100 * MOST_BLOCKED },
    { x: most.value, y: 100 * MOST_BLOCKED },
  ]
  return {
    data: {
      datasets: [
        ...leases.value.map(leaseLine),
        chartMark(`pool of ${size}`, pool, '--magenta'),
        chartMark(`aim, ${100 * MOST_BLOCKED} %`, aim, '--soft'),
      ],
    },
    options: {
      ...CHART,
      color: ink('--ink'),
      scales: {
        x: chartAxis('addresses in the pool', 0, Math.round(most.value)),
        y: chartAxis('% that find it empty', 0, 100),
      },
      plugins: {
        legend: { position: 'right' as const, labels: { boxWidth: 26, boxHeight: 1, color: ink('--ink') } },
      },
    },
  }
})

/** Pools of which the figures are told as a table: parts of the picture's width, and the pool as it is. */
const TOLD = [0.2, 0.4, 0.6, 0.8, 1]
const rows = computed(() =>
  [...new Set([...TOLD.map((part) => Math.round(most.value * part)), props.size])]
    .sort((a, b) => a - b)
    .map((size) => ({ size, shares: leases.value.map((leaseS) => shareEmpty(leaseS, size)) })),
)
</script>

<template>
  <figure>
    <div class="frame">
      <LineChart :data="picture.data" :options="picture.options" :aria-label="says" />
    </div>
    <figcaption class="small">{{ says }}</figcaption>
  </figure>
  <VExpansionPanels>
    <VExpansionPanel title="The figures">
      <template #text>
        <VTable class="ruled" aria-label="Clients that find the pool empty, in per cent">
          <thead>
            <tr>
              <th class="num">Addresses</th>
              <th v-for="leaseS in leases" :key="leaseS" class="num">Lease {{ leaseText(leaseS) }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.size">
              <th class="num" scope="row">{{ row.size }}{{ row.size === size ? ', planned' : '' }}</th>
              <td v-for="(share, i) in row.shares" :key="i" class="num mono">{{ share.toFixed(2) }} %</td>
            </tr>
          </tbody>
        </VTable>
      </template>
    </VExpansionPanel>
  </VExpansionPanels>
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
