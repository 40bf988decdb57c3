<script setup lang="ts">
/** I²C pull-ups: what is there together, against the least and the most that the bus allows. */
import { leastPullUpOhm, LOW_V, modeOf, mostPullUpOhm, reachableMode, riseTimeS } from '~~/core/signals/i2c'
import { ohmsInWords, parallelOhm, valuesBetween } from '~~/core/signals/series'
import type { Worksheet } from '~~/core/worksheets'
import type { ResultRow } from './ResultRows.vue'

const { given } = defineProps<{ given: Extract<Worksheet, { kind: 'pull-up' }> }>()
const emit = defineEmits<{ change: [sheet: Worksheet] }>()
const supplyV = ref(given.supplyV)
const clockHz = ref(given.clockHz)
const capacitancePf = ref(given.capacitancePf)
const list = ref(given.pullUpOhms.join(' '))
const ohms = computed(() => list.value.split(/[\s,;∥|]+/).map(Number).filter(ohm => Number.isFinite(ohm) && ohm > 0))

const rows = computed<ResultRow[]>(() => {
  const mode = modeOf(clockHz.value)
  const together = parallelOhm(ohms.value)
  const least = leastPullUpOhm(supplyV.value, LOW_V, mode.sinkMa)
  const most = mostPullUpOhm(mode.riseS, capacitancePf.value)
  const reachable = Number.isFinite(together) ? reachableMode({ pullUpOhm: together, capacitancePf: capacitancePf.value }) : null
  const good = least <= most ? valuesBetween('E12', least, most) : []
  return [
    { label: 'together', value: Number.isFinite(together) ? ohmsInWords(together) : 'none', limit: 'side by side', origin: 'arithmetic' },
    {
      label: 'least', value: ohmsInWords(least), limit: `at ${mode.sinkMa} mA`, holds: together >= least, origin: 'published: UM10204 §7.1',
    },
    {
      label: 'most', value: ohmsInWords(most), limit: `${Math.round(mode.riseS * 1e9)} ns at ${Math.round(capacitancePf.value)} pF`,
      holds: together <= most, origin: 'published: UM10204 §7.1',
    },
    {
      label: 'rise', value: Number.isFinite(together) ? `${Math.round(riseTimeS(together, capacitancePf.value) * 1e9)} ns` : '—',
      limit: `${Math.round(mode.riseS * 1e9)} ns, ${mode.name} mode`, holds: together <= most, origin: 'published: UM10204 table 10',
    },
    {
      label: 'fastest mode', value: reachable ? `${reachable.clockHz / 1000} kHz` : 'none', limit: `asked ${clockHz.value / 1000} kHz`,
      holds: !!reachable && reachable.clockHz >= clockHz.value, origin: 'published: UM10204',
    },
    {
      label: 'one resistor instead', value: good.length ? `${ohmsInWords(good[0]!)} – ${ohmsInWords(good.at(-1)!)}` : 'none does both',
      origin: 'published: IEC 60063, E12',
    },
  ]
})
watch(
  () => ({ kind: given.kind, supplyV: supplyV.value, clockHz: clockHz.value, capacitancePf: capacitancePf.value, pullUpOhms: ohms.value }),
  sheet => emit('change', sheet),
)
</script>

<template>
  <div class="sheet-body">
    <div class="inputs">
      <WorkField
        v-model="supplyV"
        label="Supply"
        unit="V"
      />
      <WorkField
        v-model="clockHz"
        label="Clock"
        unit="Hz"
      />
      <WorkField
        v-model="capacitancePf"
        label="Capacitance"
        unit="pF"
      />
      <label class="text"><span>Resistors, Ω</span><input
        v-model="list"
        class="figures"
        placeholder="1800 10000"
      ></label>
    </div>
    <ResultRows :rows="rows" />
  </div>
</template>
