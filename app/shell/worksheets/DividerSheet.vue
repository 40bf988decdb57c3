<script setup lang="ts">
/** A divider: the pair that findings offer for these limits, and any pair of your own. */
import { chosenDivider, DIVIDER_MOST_MA, EDGE_SHARE, judgeDivider } from '~~/core/signals/divider'
import { ohmsInWords } from '~~/core/signals/series'
import type { Worksheet } from '~~/core/worksheets'
import type { ResultRow } from './ResultRows.vue'

const { given } = defineProps<{ given: Extract<Worksheet, { kind: 'divider' }> }>()
const emit = defineEmits<{ change: [sheet: Worksheet] }>()
const inputV = ref(given.inputV)
const mostV = ref(given.mostV)
const leastV = ref(given.leastV)
const bitHz = ref(given.bitHz)
const capacitancePf = ref(50)
const mostMa = ref(DIVIDER_MOST_MA)
const series = ref(given.series)
const own = ref<{ upperOhm: number, lowerOhm: number } | null>(null)

const best = computed(() => chosenDivider({
  inputV: inputV.value, mostV: mostV.value, leastV: leastV.value, series: series.value, mostMa: mostMa.value,
  capacitancePf: capacitancePf.value, bitHz: bitHz.value,
}))
const shown = computed(() => own.value
  ? judgeDivider(inputV.value, own.value.upperOhm, own.value.lowerOhm, capacitancePf.value)
  : best.value)
const rows = computed<ResultRow[]>(() => shown.value
  ? [
      {
        label: 'upper, in the wire', value: ohmsInWords(shown.value.upperOhm),
        origin: own.value ? 'yours' : `published: IEC 60063, ${series.value}`,
      },
      {
        label: 'lower, to ground', value: ohmsInWords(shown.value.lowerOhm),
        origin: own.value ? 'yours' : `published: IEC 60063, ${series.value}`,
      },
      {
        label: 'at the tap', value: `${shown.value.tapV.toFixed(2)} V`, limit: `${leastV.value} to ${mostV.value} V`,
        holds: shown.value.tapV <= mostV.value && shown.value.tapV >= leastV.value, origin: 'textbook',
      },
      {
        label: 'current', value: `${shown.value.currentMa.toFixed(2)} mA`, limit: `${mostMa.value} mA`,
        holds: shown.value.currentMa <= mostMa.value, origin: 'arithmetic',
      },
      {
        label: 'edge', value: `${Number((shown.value.edgeS * 1e6).toPrecision(3))} µs`,
        limit: `${Number((EDGE_SHARE * 1e6 / bitHz.value).toPrecision(3))} µs, a tenth of a bit`,
        holds: shown.value.edgeS <= EDGE_SHARE / bitHz.value,
        origin: 'practice',
      },
    ]
  : [{
      label: 'no pair', value: '—', limit: 'Allow more current, a finer series or a slower rate; or take a level shifter.', holds: false,
    }])
watch(
  () => ({ kind: given.kind, inputV: inputV.value, mostV: mostV.value, leastV: leastV.value, bitHz: bitHz.value, series: series.value }),
  sheet => emit('change', sheet),
)
</script>

<template>
  <div class="sheet-body">
    <div class="inputs">
      <WorkField
        v-model="inputV"
        label="Comes in"
        unit="V"
      />
      <WorkField
        v-model="mostV"
        label="Input stands"
        unit="V"
      />
      <WorkField
        v-model="leastV"
        label="Input reads high from"
        unit="V"
        :least="-1"
      />
      <WorkField
        v-model="bitHz"
        label="Bit rate"
        unit="bit/s"
      />
      <WorkField
        v-model="capacitancePf"
        label="Capacitance at the tap"
        unit="pF"
      />
      <WorkField
        v-model="mostMa"
        label="Most current"
        unit="mA"
      />
      <SeriesField v-model="series" />
      <label class="check"><input
        type="checkbox"
        :checked="own !== null"
        @change="own = own ? null : { upperOhm: best?.upperOhm ?? 1800, lowerOhm: best?.lowerOhm ?? 3300 }"
      > a pair of my own</label>
      <template v-if="own">
        <WorkField
          v-model="own.upperOhm"
          label="Upper"
          unit="Ω"
        />
        <WorkField
          v-model="own.lowerOhm"
          label="Lower"
          unit="Ω"
        />
      </template>
    </div>
    <ResultRows :rows="rows" />
  </div>
</template>
