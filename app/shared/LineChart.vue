<script setup lang="ts">
/** Curves over a numeric axis, in the application's colours. The chart library comes with it, so it loads on demand. */
import {
  Chart, Filler, Legend, LinearScale, LineController, LineElement, PointElement, Tooltip, type ChartData,
  type ChartOptions,
} from 'chart.js'
import { Line } from 'vue-chartjs'

export interface Curve {
  label: string
  unit: string
  points: { x: number, y: number }[]
  /** A custom property of the palette. */
  colour: string
  stepped?: boolean
  dashed?: boolean
  fill?: boolean
  /** Second axis, on the right. */
  right?: boolean
}

const { curves, xLabel, label, xEvery = undefined, min = undefined, max = undefined } = defineProps<{
  curves: Curve[]
  xLabel: string
  label: string
  xEvery?: number
  min?: number
  max?: number
}>()
Chart.register(Filler, Legend, LinearScale, LineController, LineElement, PointElement, Tooltip)
const view = useViewStore()
const line = useTemplateRef<{ chart?: { toBase64Image: () => string } | null }>('line')
/** The picture as it is shown, as a data address. */
defineExpose({ png: () => line.value?.chart?.toBase64Image() ?? null })

/** Colours as they are now: a canvas knows no custom properties. */
const palette = computed(() => {
  const style = getComputedStyle(document.querySelector('.v-application') ?? document.body)
  const of = (name: string) => style.getPropertyValue(name).trim()
  return { night: view.dark, of, ink: of('--ink'), ink2: of('--ink-2'), rule: of('--rule'), sheet: of('--sheet') }
})

const chart = computed<ChartData<'line', { x: number, y: number }[]>>(() => ({
  datasets: curves.map(curve => ({
    label: `${curve.label} (${curve.unit})`, data: curve.points, borderColor: palette.value.of(curve.colour),
    backgroundColor: `${palette.value.of(curve.colour)}2e`, borderWidth: 2, pointRadius: 0, pointHitRadius: 8,
    stepped: curve.stepped ? 'before' as const : false, borderDash: curve.dashed ? [6, 4] : [],
    fill: curve.fill ? 'origin' : false,
    yAxisID: curve.right ? 'right' : 'y',
  })),
}))
const options = computed<ChartOptions<'line'>>(() => {
  const { ink2, rule, ink, sheet } = palette.value
  const family = 'Atkinson Hyperlegible Next Variable, system-ui, sans-serif'
  const axis = (title: string) => ({
    title: { display: true, text: title, color: ink2, font: { family, size: 12 } },
    ticks: { color: ink2, font: { family, size: 11.5 } },
    grid: { color: `${rule}88` },
  })
  const units = (right: boolean) =>
    [...new Set(curves.filter(curve => !!curve.right === right).map(curve => curve.unit))].join(', ')
  return {
    responsive: true, maintainAspectRatio: false, animation: false, parsing: false, normalized: true,
    interaction: { mode: 'index', intersect: false },
    scales: {
      x: {
        type: 'linear', ...axis(xLabel), max: Math.max(...curves.flatMap(curve => curve.points.at(-1)?.x ?? 0)),
        ticks: { ...axis('').ticks, ...xEvery && { stepSize: xEvery } },
      },
      y: { ...axis(units(false)), suggestedMin: min, suggestedMax: max },
      ...curves.some(curve => curve.right) && {
        right: { ...axis(units(true)), position: 'right' as const, grid: { display: false }, min: 0 },
      },
    },
    plugins: {
      legend: { labels: { color: ink, font: { family, size: 12 }, boxWidth: 22, boxHeight: 1 }, position: 'top',
        align: 'start' },
      tooltip: {
        backgroundColor: sheet, titleColor: ink, bodyColor: ink, borderColor: rule, borderWidth: 1,
        titleFont: { family },
        bodyFont: { family },
      },
    },
  }
})
</script>

<template>
  <div
    class="plot"
    data-test="chart"
  >
    <Line
      ref="line"
      :key="String(palette.night)"
      :aria-label="label"
      :data="chart"
      :options="options"
    />
  </div>
</template>

<style scoped>
.plot { position: relative; height: 250px; min-width: 0; }
</style>
