<script setup lang="ts">
/** A curve and, beside it, the same figures as a table. */
import type { Curve } from './LineChart.vue'

import { chartAsCsv, curvesAsSvg } from '~~/core/share/chart'

const { rows, columns, curves, label, xLabel } = defineProps<{
  curves: Curve[]
  xLabel: string
  label: string
  columns: string[]
  rows: string[][]
  xEvery?: number
  min?: number
  max?: number
}>()

const chart = useTemplateRef<{ png: () => string | null }>('chart')
const colourOf = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#333333'

/** Rows keep their place: the first column is a time in words. */
const numbered = computed(() => rows.map((cells, at) => ({ cells, at })))
const sortable = computed(() => columns.map((title, i) => ({
  key: `c${i}`, title, num: i > 0, unsorted: true, value: (row: { cells: string[] }) => row.cells[i],
})))

function save(kind: 'png' | 'svg' | 'csv') {
  const name = fileName(label, `.${kind}`)
  if (kind === 'csv') return download(name, '\uFEFF' + chartAsCsv(columns, rows), 'text/csv')
  if (kind === 'svg') {
    const coloured = curves.map(curve => ({ ...curve, colour: colourOf(curve.colour) }))
    return download(name, curvesAsSvg(label, xLabel, coloured), 'image/svg+xml')
  }
  const picture = chart.value?.png()
  if (picture) download(name, Uint8Array.from(atob(picture.split(',')[1]!), letter => letter.charCodeAt(0)),
    'image/png')
}
</script>

<template>
  <div class="both">
    <LazyLineChart
      ref="chart"
      :curves="curves"
      :x-label="xLabel"
      :label="label"
      :x-every="xEvery"
      :min="min"
      :max="max"
    />
    <div class="beside">
      <v-menu>
        <template #activator="{ props: menu }">
          <v-btn
            size="x-small"
            variant="outlined"
            v-bind="menu"
            data-test="save-chart"
          >
            Save
          </v-btn>
        </template>
        <v-list>
          <v-list-item
            title="As a picture (PNG)"
            @click="save('png')"
          />
          <v-list-item
            title="As a drawing (SVG)"
            data-test="save-svg"
            @click="save('svg')"
          />
          <v-list-item
            title="As a table (CSV)"
            data-test="save-csv"
            @click="save('csv')"
          />
        </v-list>
      </v-menu>
      <SortTable
        class="scroll"
        :rows="numbered"
        :columns="sortable"
        :row-key="row => String(row.at)"
        :caption="`${label}, as a table`"
        :height="250"
      />
    </div>
  </div>
</template>

<style scoped>
.both { display: grid; grid-template-columns: minmax(0, 1fr) 270px; gap: 14px; align-items: start; }
.beside { display: grid; gap: 4px; justify-items: end; }
.beside .scroll { width: 100%; }
.scroll :deep(td), .scroll :deep(th) { padding: 2px 8px 2px 0; font-size: 12.5px; }
@media (max-width: 900px) { .both { grid-template-columns: minmax(0, 1fr); } }
</style>
