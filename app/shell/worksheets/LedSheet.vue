<script setup lang="ts">
/** The resistor of an LED. */
import { ledResistor } from '~~/core/signals/drive'
import { ohmsInWords } from '~~/core/signals/series'
import type { Worksheet } from '~~/core/worksheets'
import type { ResultRow } from './ResultRows.vue'

const { given } = defineProps<{ given: Extract<Worksheet, { kind: 'led' }> }>()
const emit = defineEmits<{ change: [sheet: Worksheet] }>()
const project = useProjectStore()
const supplyV = ref(given.supplyV)
const forwardV = ref(given.forwardV)
const currentMa = ref(given.currentMa)
const series = ref(given.series)
const most = computed(() => project.facts?.board?.limits.lineMaxMa ?? { value: 16, origin: 'memory' })
const found = computed(() => ledResistor({
  supplyV: supplyV.value, forwardV: forwardV.value, currentMa: currentMa.value, series: series.value,
}))
const rows = computed<ResultRow[]>(() => found.value
  ? [
      { label: 'exactly', value: ohmsInWords(found.value.exactOhm), origin: 'arithmetic: (U − Uf) ÷ I' },
      { label: 'take', value: ohmsInWords(found.value.ohm), origin: `published: IEC 60063, ${series.value}` },
      {
        label: 'flows', value: `${found.value.currentMa.toFixed(2)} mA`, limit: `a line gives ${most.value.value} mA`,
        holds: found.value.currentMa <= most.value.value, origin: most.value.origin,
      },
      {
        label: 'resistor warms with', value: `${found.value.resistorMw.toFixed(1)} mW`, limit: 'a small one stands 250 mW',
        holds: found.value.resistorMw <= 250, origin: 'practice',
      },
    ]
  : [{ label: 'does not light', value: '—', limit: 'The supply has to be above the LED\'s own voltage.', holds: false }])
watch(
  () => ({ kind: given.kind, supplyV: supplyV.value, forwardV: forwardV.value, currentMa: currentMa.value, series: series.value }),
  sheet => emit('change', sheet),
)
</script>

<template>
  <div class="sheet-body">
    <div class="inputs">
      <WorkField
        v-model="supplyV"
        label="Line or supply"
        unit="V"
      />
      <WorkField
        v-model="forwardV"
        label="LED's own voltage"
        unit="V"
      />
      <WorkField
        v-model="currentMa"
        label="Wanted current"
        unit="mA"
      />
      <SeriesField v-model="series" />
    </div>
    <ResultRows :rows="rows" />
  </div>
</template>
