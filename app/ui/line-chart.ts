// Charts of lines, loaded when one is first shown; their colours are those of the paper they are drawn on.

/** A colour of the theme that is on now, by its name in the style sheet. */
export const ink = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim()

export const LineChart = defineAsyncComponent(async () => {
  const [{ Line }, chart] = await Promise.all([import('vue-chartjs'), import('chart.js')])
  chart.Chart.register(
    chart.LineController,
    chart.LineElement,
    chart.PointElement,
    chart.LinearScale,
    chart.Legend,
    chart.Tooltip,
  )
  chart.Chart.defaults.font.family = "'Atkinson Hyperlegible Next', sans-serif"
  return Line
})

/** An axis with its name and bounds. */
export const chartAxis = (text: string, min: number, max: number) => ({
  type: 'linear' as const,
  title: { display: true, text, color: ink('--ink') },
  ticks: { color: ink('--ink') },
  grid: { color: ink('--hair') },
  min,
  max,
})

/** A straight line that marks a figure. */
export const chartMark = (label: string, data: { x: number; y: number }[], colour: string) => ({
  label,
  data,
  borderColor: ink(colour),
  borderDash: [2, 2],
  borderWidth: 1.5,
  pointRadius: 0,
})

/** What all charts have in common. */
export const CHART = {
  animation: false as const,
  responsive: true,
  maintainAspectRatio: false,
  parsing: false as const,
}
