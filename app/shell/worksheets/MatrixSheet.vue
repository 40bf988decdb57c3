<script setup lang="ts">
/** Keys in rows and columns: lines, ghosts, scan time. */
import { matrixFigures, smallestMatrix } from '~~/core/signals/matrix'
import type { Worksheet } from '~~/core/worksheets'
import type { ResultRow } from './ResultRows.vue'

const { given } = defineProps<{ given: Extract<Worksheet, { kind: 'matrix' }> }>()
const emit = defineEmits<{ change: [sheet: Worksheet] }>()
const keys = ref(given.keys)
const rowCount = ref(given.rows)
const columns = ref(given.columns)
const diodes = ref(given.diodes)
const settleUs = ref(20)
const smallest = computed(() => smallestMatrix(Math.max(1, Math.round(keys.value))))

const rows = computed<ResultRow[]>(() => {
  const figures = matrixFigures(
    { rows: Math.round(rowCount.value), columns: Math.round(columns.value), diodes: diodes.value }, settleUs.value * 1e-6,
  )
  return [
    {
      label: 'keys', value: String(figures.keys), limit: `wanted ${Math.round(keys.value)}`, holds: figures.keys >= Math.round(keys.value),
      origin: 'arithmetic',
    },
    {
      label: 'lines', value: String(figures.lines),
      limit: `fewest: ${smallest.value.rows + smallest.value.columns}, ${smallest.value.rows} × ${smallest.value.columns}`,
      holds: figures.lines <= smallest.value.rows + smallest.value.columns, origin: 'arithmetic',
    },
    {
      label: 'told apart together', value: `${figures.toldApart} keys`,
      limit: diodes.value ? 'a diode for each key' : 'three corners of a rectangle show the fourth', origin: 'practice',
    },
    {
      label: 'one scan', value: `${(figures.scanS * 1000).toFixed(2)} ms`, limit: '5 ms feel immediate', holds: figures.scanS <= 0.005,
      origin: 'practice',
    },
  ]
})
watch(
  () => ({ kind: given.kind, keys: keys.value, rows: rowCount.value, columns: columns.value, diodes: diodes.value }),
  sheet => emit('change', sheet),
)
</script>

<template>
  <div class="sheet-body">
    <div class="inputs">
      <WorkField
        v-model="keys"
        label="Keys wanted"
      />
      <WorkField
        v-model="rowCount"
        label="Rows"
      />
      <WorkField
        v-model="columns"
        label="Columns"
      />
      <WorkField
        v-model="settleUs"
        label="Settling for each row"
        unit="µs"
      />
      <label class="check"><input
        v-model="diodes"
        type="checkbox"
      > a diode for each key</label>
      <v-btn
        variant="text"
        size="x-small"
        class="act"
        @click="rowCount = smallest.rows; columns = smallest.columns"
      >
        Take the split with fewest lines
      </v-btn>
    </div>
    <ResultRows :rows="rows" />
  </div>
</template>

<style scoped>
.link { color: var(--copper); text-decoration: underline; font-size: 13px; }
</style>
