<script setup lang="ts">
/** A driving stage worked out: MOSFET and transistor side by side. */
import { MOSFET, mosfetStage, TRANSISTOR, transistorStage } from '~~/core/signals/drive'
import { ohmsInWords } from '~~/core/signals/series'
import type { Worksheet } from '~~/core/worksheets'
import type { ResultRow } from './ResultRows.vue'

const { given } = defineProps<{ given: Extract<Worksheet, { kind: 'stage' }> }>()
const emit = defineEmits<{ change: [sheet: Worksheet] }>()
const project = useProjectStore()
const lineV = ref(given.lineV)
const loadV = ref(given.loadV)
const loadMa = ref(given.loadMa)
const inductive = ref(given.inductive)
const switchingHz = ref(given.switchingHz)
const series = ref(given.series)
const lineMostMa = computed(() => project.facts?.board?.limits.lineMaxMa.value ?? 16)
const task = computed(() => ({
  lineV: lineV.value, loadV: loadV.value, loadMa: loadMa.value, inductive: inductive.value, switchingHz: switchingHz.value,
  series: series.value,
}))
const diode = computed(() => inductive.value
  ? `across the load, cathode to ${loadV.value} V, for ${loadMa.value} mA or more`
  : 'none needed')

const mosfet = computed<ResultRow[]>(() => {
  const stage = mosfetStage(task.value, lineMostMa.value)
  return [
    {
      label: 'gate resistor', value: ohmsInWords(stage.gateOhm), limit: `keeps the line within ${lineMostMa.value} mA`, origin: 'textbook',
    },
    { label: 'gate to ground', value: ohmsInWords(stage.pullDownOhm), limit: 'holds it off while the board starts', origin: 'practice' },
    {
      label: 'fully on from', value: `${MOSFET.fullyOnV} V`, limit: `the line gives ${lineV.value} V`,
      holds: lineV.value >= MOSFET.fullyOnV, origin: MOSFET.origin,
    },
    { label: 'load', value: `${loadMa.value} mA`, limit: `stands ${MOSFET.mostMa} mA`, holds: stage.fits, origin: MOSFET.origin },
    {
      label: 'loss', value: `${stage.lossMw.toFixed(1)} mW`, limit: '500 mW without a heat sink', holds: stage.lossMw <= 500,
      origin: 'memory',
    },
    { label: 'flyback diode', value: inductive.value ? 'yes' : 'no', limit: diode.value, origin: 'practice' },
  ]
})
const transistor = computed<ResultRow[]>(() => {
  const stage = transistorStage(task.value)
  return [
    {
      label: 'base resistor', value: ohmsInWords(stage.baseOhm), limit: `${TRANSISTOR.overdrive} × the load ÷ ${TRANSISTOR.gain}`,
      origin: 'practice',
    },
    {
      label: 'from the line', value: `${stage.baseMa.toFixed(2)} mA`, limit: `gives ${lineMostMa.value} mA`,
      holds: stage.baseMa <= lineMostMa.value, origin: 'arithmetic',
    },
    { label: 'load', value: `${loadMa.value} mA`, limit: `stands ${TRANSISTOR.mostMa} mA`, holds: stage.fits, origin: TRANSISTOR.origin },
    { label: 'loss', value: `${stage.lossMw.toFixed(1)} mW`, limit: '300 mW', holds: stage.lossMw <= 300, origin: 'memory' },
    { label: 'flyback diode', value: inductive.value ? 'yes' : 'no', limit: diode.value, origin: 'practice' },
  ]
})
watch(
  () => ({
    kind: given.kind, lineV: lineV.value, loadV: loadV.value, loadMa: loadMa.value, inductive: inductive.value,
    switchingHz: switchingHz.value, series: series.value,
  }),
  sheet => emit('change', sheet),
)
</script>

<template>
  <div class="sheet-body">
    <div class="inputs">
      <WorkField
        v-model="loadMa"
        label="Load"
        unit="mA"
      />
      <WorkField
        v-model="loadV"
        label="Load's supply"
        unit="V"
      />
      <WorkField
        v-model="lineV"
        label="Line gives"
        unit="V"
      />
      <WorkField
        v-model="switchingHz"
        label="Switched how often"
        unit="Hz"
        :open="false"
      />
      <SeriesField v-model="series" />
      <label class="check"><input
        v-model="inductive"
        type="checkbox"
      > a coil or a motor</label>
    </div>
    <div>
      <h3>MOSFET</h3>
      <ResultRows :rows="mosfet" />
      <h3 class="second">
        Transistor
      </h3>
      <ResultRows :rows="transistor" />
    </div>
  </div>
</template>

<style scoped>
.second { margin-top: 10px; }
</style>
