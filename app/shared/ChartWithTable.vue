<script setup lang="ts">
/** A curve and, beside it, the same figures as a table. */
import type { Curve } from './LineChart.vue'

const { rows, columns } = defineProps<{
  curves: Curve[]
  xLabel: string
  label: string
  columns: string[]
  rows: string[][]
  xEvery?: number
  least?: number
  most?: number
}>()
</script>

<template>
  <div class="both">
    <LazyLineChart
      :curves="curves"
      :x-label="xLabel"
      :label="label"
      :x-every="xEvery"
      :least="least"
      :most="most"
    />
    <div
      class="scroll"
      tabindex="0"
      role="region"
      :aria-label="`${label}, as a table`"
    >
      <v-table>
        <thead>
          <tr>
            <th
              v-for="(column, i) in columns"
              :key="column"
              scope="col"
              :class="{ num: i > 0 }"
            >
              {{ column }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(row, i) in rows"
            :key="i"
          >
            <td
              v-for="(cell, j) in row"
              :key="j"
              :class="{ num: j > 0 }"
            >
              {{ cell }}
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
  </div>
</template>

<style scoped>
.both { display: grid; grid-template-columns: minmax(0, 1fr) 270px; gap: 14px; align-items: start; }
.scroll { max-height: 250px; overflow-y: auto; }
.scroll th { position: sticky; top: 0; background: var(--paper); }
.scroll td, .scroll th { padding: 2px 8px 2px 0; font-size: 12.5px; }
@media (max-width: 900px) { .both { grid-template-columns: minmax(0, 1fr); } }
</style>
